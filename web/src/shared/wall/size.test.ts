// @vitest-environment jsdom
import { beforeEach, expect, it } from "vitest";
import { chosenSizes, keepSize, roomOf, usualSize } from "./size";

const query = (text = "") => new URLSearchParams(text);

beforeEach(() => localStorage.clear());

it("knows the place that the wall stands behind", () => {
  expect(roomOf("/site/blocks/footer", query())).toBe("blocks make");
  expect(roomOf("/site/blocks/footer", query("tab=values"))).toBe("blocks values");
  expect(roomOf("/site/rules/notice", query())).toBe("rules");
  expect(roomOf("/site/rules", query("peek=/a/"))).toBe("peek");
  expect(roomOf("/site", query())).toBe("blocks make");
});

it("takes room where it is what one reads, and where there is plenty", () => {
  expect(usualSize("rules", true, { width: 1280, height: 800 })).toBe("courses");
  expect(usualSize("blocks make", true, { width: 1280, height: 800 })).toBe("line");
  expect(usualSize("blocks make", true, { width: 1920, height: 1000 })).toBe("courses");
});

it("takes none where it says nothing", () => {
  expect(usualSize("rules", false, { width: 1920, height: 1080 })).toBe("line");
  expect(usualSize("checks", true, { width: 1920, height: 1080 })).toBe("line");
  expect(usualSize("rules", true, { width: 819, height: 1080 })).toBe("line");
  expect(usualSize("rules", true, { width: 1280, height: 400 })).toBe("line");
});

it("keeps what was chosen for each place, and nothing that is no height", () => {
  keepSize("rules", "tall");
  keepSize("pages", "line");
  expect(chosenSizes()).toEqual({ rules: "tall", pages: "line" });
  localStorage.setItem("wall sizes", '{"rules":"huge","pages":"courses"}');
  expect(chosenSizes()).toEqual({ pages: "courses" });
  localStorage.setItem("wall sizes", "{");
  expect(chosenSizes()).toEqual({});
});
