import { expect, test } from "vitest";
import { aside, scaleOf, sideways, zoomOf } from "./zoom";

test("a page is as large as it is unless one chose otherwise", () => {
  expect(zoomOf(null)).toBe("100");
  expect(zoomOf("nonsense")).toBe("100");
  expect(zoomOf("fit")).toBe("fit");
  expect(zoomOf("200")).toBe("200");
});

test("it is made smaller to fit, never larger", () => {
  expect(scaleOf("fit", 1280, 640)).toBe(0.5);
  expect(scaleOf("fit", 390, 640)).toBe(1);
  expect(scaleOf("fit", 390, 0)).toBe(1);
  expect(scaleOf("100", 1280, 640)).toBe(1);
  expect(scaleOf("200", 1280, 640)).toBe(2);
});

test("what is in question is brought into the middle, or shown from its beginning", () => {
  expect(sideways({ left: 900, width: 200 }, 1, 500, 1280)).toBe(750);
  expect(sideways({ left: 0, width: 1280 }, 1, 500, 1280)).toBe(0);
  expect(sideways({ left: 300, width: 800 }, 1, 500, 1280)).toBe(300);
  expect(sideways({ left: 1200, width: 60 }, 1, 500, 1280)).toBe(780);
  expect(sideways({ left: 10, width: 20 }, 2, 500, 1280)).toBe(0);
  expect(sideways({ left: 300, width: 100 }, 0.4, 600, 1280)).toBe(0);
});

test("what is seen by half is in sight, and what cannot be wider", () => {
  const it = { left: 600, width: 100 };
  expect(aside(it, 1, 500, 149)).toBe(true);
  expect(aside(it, 1, 500, 150)).toBe(false);
  expect(aside(it, 1, 500, 650)).toBe(false);
  expect(aside(it, 1, 500, 651)).toBe(true);
  expect(aside(it, 0.5, 500, 0)).toBe(false);
  expect(aside({ left: 0, width: 1280 }, 1, 500, 700)).toBe(false);
  expect(aside({ left: 0, width: 1280 }, 1, 500, 1100)).toBe(true);
});
