// @vitest-environment jsdom
import { describe, expect, it, vi } from "vitest";
import { holdKeys, takeKeys } from "./typedAhead";

describe("what is typed before a place is there", () => {
  const heard = vi.fn();
  document.addEventListener("keydown", heard);
  const type = (key: string, more = {}) => {
    const e = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
    document.body.dispatchEvent(e);
    return e;
  };

  it("is held for it, and goes on to nobody else", () => {
    expect(takeKeys()).toBe("");
    holdKeys();
    expect(type("a").defaultPrevented).toBe(true);
    type("B");
    expect(heard).not.toHaveBeenCalled();
    expect(type("k", { ctrlKey: true }).defaultPrevented, "no command").toBe(false);
    expect(type("Enter").defaultPrevented).toBe(false);
    expect(takeKeys()).toBe("aB");
    expect(type("c").defaultPrevented, "it is there now").toBe(false);
    expect(takeKeys()).toBe("");
  });

  it("is let go of where no place comes", () => {
    vi.useFakeTimers();
    holdKeys();
    type("a");
    vi.advanceTimersByTime(3001);
    expect(type("b").defaultPrevented).toBe(false);
    expect(takeKeys()).toBe("");
    vi.useRealTimers();
  });
});
