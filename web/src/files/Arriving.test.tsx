// @vitest-environment jsdom
import { draw } from "../testing/bench";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { ChangeSet } from "../api/client";
import { Arriving } from "./Arriving";
import { incoming } from "./incoming";

type Sent = ChangeSet & { signal: AbortSignal };
const save = vi.hoisted(() => ({ mutateAsync: vi.fn() }));
vi.mock("../api/changes", () => ({ useSave: () => save }));

/** A file of some size, of which no byte is there. */
function file(name: string, size: number): File {
  const f = new File(["text"], name);
  Object.defineProperty(f, "size", { value: size });
  return f;
}

function Coming({ done }: { done: () => void }) {
  const mega = 1024 * 1024;
  const [coming, set] = useState(() =>
    incoming(
      ["one.txt", "two.txt", "three.txt"].map((path) => ({ path, file: file(path, 30 * mega) })),
      "files/",
      [],
    ),
  );
  return <Arriving coming={coming} set={set} files={[]} done={done} />;
}

describe("files that are put there in several goes", () => {
  const done = vi.fn();
  beforeEach(() => {
    done.mockReset();
    save.mutateAsync.mockReset();
    draw(<Coming done={done} />);
  });
  const listed = () =>
    screen.queryAllByRole("listitem").map((l) => l.querySelector("code")?.textContent);
  const put = async (count: number) => {
    const button = await screen.findByRole("button", { name: `Put ${count} files there` });
    await waitFor(() => expect(button.hasAttribute("disabled")).toBe(false));
    fireEvent.click(button);
  };

  it("are asked about again where they were not sent yet when one stops", async () => {
    save.mutateAsync.mockImplementationOnce((sent: Sent) => Promise.resolve({ title: sent.title }));
    save.mutateAsync.mockImplementationOnce(
      ({ signal }: Sent) =>
        new Promise((_, failed) =>
          signal.addEventListener("abort", () => failed(new Error("stopped"))),
        ),
    );
    await put(3);
    await waitFor(() => expect(save.mutateAsync).toHaveBeenCalledTimes(2));
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    await waitFor(() => expect(listed()).toEqual(["files/two.txt", "files/three.txt"]));
    expect(done).not.toHaveBeenCalled();
  });

  it("are asked about again where one could not be saved", async () => {
    save.mutateAsync.mockImplementationOnce((sent: Sent) => Promise.resolve({ title: sent.title }));
    save.mutateAsync.mockImplementationOnce(() => Promise.reject(new Error("no room")));
    await put(3);
    expect(await screen.findByText("no room")).toBeTruthy();
    await waitFor(() => expect(listed()).toEqual(["files/two.txt", "files/three.txt"]));
  });

  it("are gone from the list when all are there", async () => {
    save.mutateAsync.mockImplementation((sent: Sent) => Promise.resolve({ title: sent.title }));
    await put(3);
    await waitFor(() => expect(done).toHaveBeenCalledWith("files/one.txt"));
    expect(listed()).toEqual([]);
  });
});
