// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useGrowing } from "./useGrowing";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it("draws a long list a few rows at a time, and a short one at once", () => {
  const list = renderHook(({ total }) => useGrowing(total), { initialProps: { total: 40 } });
  const seen = [list.result.current];
  while (seen.at(-1) !== 40) {
    act(() => {
      vi.advanceTimersToNextTimer();
    });
    seen.push(list.result.current);
  }
  expect(seen.length).toBeGreaterThan(2);
  expect(seen).toEqual([...seen].sort((a, b) => a - b));
  expect(vi.getTimerCount()).toBe(0);
  list.rerender({ total: 7 });
  expect(list.result.current).toBe(7);
});
