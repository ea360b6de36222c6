// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { Sorted, useRow } from "./sorting";

afterEach(cleanup);

function Row({ id, fixed }: { id: string; fixed: boolean }) {
  const { row, handle } = useRow(id, id, fixed);
  return <li {...row}>{handle}</li>;
}

function List({ fixed }: { fixed: string }) {
  const [keys, order] = useState(["one", "two", "three"]);
  return (
    <Sorted keys={keys} order={order}>
      <ol>
        {keys.map((k) => (
          <Row key={k} id={k} fixed={k === fixed} />
        ))}
      </ol>
    </Sorted>
  );
}

const handle = (name: string) => screen.getByRole("button", { name: `Move ${name}` });
const shown = () => screen.getAllByRole("button").map((b) => b.getAttribute("aria-label"));

it("is moved by the arrow keys alone, which is told, and keeps the focus", () => {
  vi.useFakeTimers({ toFake: ["requestAnimationFrame", "performance"] });
  render(<List fixed="" />);
  act(() => handle("three").focus());
  fireEvent.keyDown(handle("three"), { key: "ArrowUp" });
  expect(shown()).toEqual(["Move one", "Move three", "Move two"]);
  expect(screen.getByText("three is 2 of 3.")).toBeTruthy();
  act(() => {
    (document.activeElement as HTMLElement).blur();
    vi.advanceTimersByTime(100);
  });
  expect(document.activeElement).toBe(handle("three"));
  fireEvent.keyDown(handle("three"), { key: "ArrowUp" });
  fireEvent.keyDown(handle("three"), { key: "ArrowUp" });
  expect(shown()).toEqual(["Move three", "Move one", "Move two"]);
  vi.useRealTimers();
});

it("goes past what stays where it is", () => {
  render(<List fixed="two" />);
  fireEvent.keyDown(handle("one"), { key: "ArrowDown" });
  expect(shown()).toEqual(["Move two", "Move three", "Move one"]);
});
