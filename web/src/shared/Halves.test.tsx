// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { beforeEach, expect, it } from "vitest";
import { Halves } from "./Halves";

beforeEach(() => {
  cleanup();
  localStorage.clear();
});

const see = (place = "block") => {
  const seen = render(
    <Halves place={place}>
      <p>left</p>
      <p>right</p>
    </Halves>,
  );
  return { ...seen, divider: screen.getByRole("separator", { name: "Divider" }) };
};
const now = (divider: HTMLElement) => divider.getAttribute("aria-valuenow");

it("is moved by keys, as far as both can still be seen, and is where it was when one comes back", () => {
  const { divider, unmount } = see();
  expect(now(divider)).toBe("50");
  fireEvent.keyDown(divider, { key: "ArrowLeft" });
  expect(now(divider)).toBe("45");
  fireEvent.keyDown(divider, { key: "ArrowRight" });
  fireEvent.keyDown(divider, { key: "ArrowRight" });
  expect(now(divider)).toBe("55");
  fireEvent.keyDown(divider, { key: "End" });
  expect(now(divider)).toBe("80");
  fireEvent.keyDown(divider, { key: "Home" });
  expect(now(divider)).toBe("20");
  fireEvent.keyDown(divider, { key: "a" });
  expect(now(divider)).toBe("20");
  unmount();
  const again = see();
  expect(now(again.divider)).toBe("20");
  fireEvent.doubleClick(again.divider);
  expect(now(again.divider)).toBe("50");
});

it("stands in each place by itself, and nothing that was kept breaks it", () => {
  localStorage.setItem("divider-page", "nonsense");
  localStorage.setItem("divider-script", "97");
  expect(now(see("page").divider)).toBe("50");
  cleanup();
  expect(now(see("script").divider)).toBe("80");
});
