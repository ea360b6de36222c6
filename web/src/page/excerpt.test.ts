import { expect, it } from "vitest";
import { excerptOf } from "./excerpt";

it.each([
  ["<p>The  <b>mill</b></p>", "The mill"],
  ["a @{b /} c", "a c"],
  ['a @{b links=[{"to": "}"}, {"to": `}"`}] /} c', "a c"],
  ['a @{b word=\'}\' other="\\"}" /} c', "a c"],
  ["a @{# don't } c", "a c"],
  ["a @@{b} c", "a @{b} c"],
  ['a @{b links=[{"to": "x', "a"],
  ["@{b /}", "@{b /}"],
])("%s reads as %s", (html, words) => {
  expect(excerptOf(html)).toBe(words);
});
