// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { goingOn, StoppedError } from "../api/goingOn";
import { GoingOn } from "./GoingOn";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const going = goingOn.middleware;
const pass = (ms: number) =>
  act(() => {
    vi.advanceTimersByTime(ms);
  });

/** A request as the client makes it. */
function ask(id: string, method: string, schemaPath: string) {
  const asked = { id, schemaPath, request: new Request("http://tool.test/", { method }) };
  let sent = asked.request;
  act(
    () => void (sent = going.onRequest(asked as unknown as Parameters<typeof going.onRequest>[0])),
  );
  const answer = asked as unknown as Parameters<typeof going.onResponse>[0] &
    Parameters<typeof going.onError>[0];
  return {
    sent,
    answer: () =>
      act(() => {
        going.onResponse(answer);
      }),
    fail: () =>
      act(() => {
        going.onError(answer);
      }),
  };
}

it("says what is waited for once that is over a second, for how long, and gives it up", () => {
  render(<GoingOn />);
  const one = ask("1", "POST", "/sites/{site}/operations");
  pass(900);
  expect(screen.queryByRole("status")).toBeNull();
  pass(1200);
  expect(screen.getByRole("status").textContent).toBe("Working out what it changes…");
  expect(screen.getByText("2 s")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Stop" }));
  expect(one.sent.signal.aborted).toBe(true);
  expect(one.sent.signal.reason).toBeInstanceOf(StoppedError);
  one.fail();
  expect(screen.queryByRole("status")).toBeNull();
});

it("does not offer to stop what is written whole or not at all", () => {
  render(<GoingOn />);
  const one = ask("2", "POST", "/sites/{site}/releases");
  pass(1100);
  expect(screen.getByRole("status").textContent).toBe("Publishing…");
  expect(screen.queryByRole("button")).toBeNull();
  act(() => {
    goingOn.progress({ what: "Rendering pages", done: 2500, total: 10_000 });
  });
  expect(screen.getByText("Rendering pages: 2,500 of 10,000")).toBeTruthy();
  expect(screen.getByRole("progressbar").ariaValueNow).toBe("25");
  one.answer();
  expect(screen.queryByRole("status")).toBeNull();
  const read = ask("3", "GET", "/sites/{site}/releases/{number}");
  pass(1100);
  expect(screen.getByRole("status").textContent).toBe("Reading…");
  act(() => {
    goingOn.progress({ what: "Rendering pages", done: 1, total: 2 });
  });
  expect(screen.queryByText(/Rendering pages/)).toBeNull();
  read.answer();
});
