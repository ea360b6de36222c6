import { expect, it } from "vitest";
import { pageOf } from "./Live";

it("knows the page that a preview shows", () => {
  expect(
    [
      "http://127.0.0.1:1/_draft/ports/",
      "http://x/_edit/12/ports/a/",
      "http://x/_live/",
      "http://x/about/",
    ].map(pageOf),
  ).toEqual(["/ports/", "/ports/a/", "/", "/about/"]);
});
