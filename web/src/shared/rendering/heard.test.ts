import { expect, it } from "vitest";
import { heard } from "./heard";

it("takes what a preview says", () => {
  for (const m of [
    { shelf: "ready" },
    { shelf: "scrolled", top: 12.5, lit: null },
    { shelf: "scrolled", top: 0, lit: -40 },
    { shelf: "lit", left: -3, width: 200 },
    { shelf: "changed", left: 3, width: 20 },
    { shelf: "sketch", signs: [] },
    { shelf: "sketch", signs: [-4, 5] },
    { shelf: "key", key: "k", ctrl: true },
    { shelf: "key", key: "Escape", ctrl: false },
    { shelf: "key", key: "?", ctrl: false },
    { shelf: "own", at: 3, tag: "p", more: false },
    { shelf: "follow", href: "/fares/" },
  ])
    expect(heard(m)).toEqual(m);
  expect(heard({ shelf: "point", addresses: ["main/a~1"], blocks: ["a:linked"] })).toEqual({
    shelf: "point",
    addresses: ["main/a~1"],
    blocks: ["a"],
  });
});

it("takes no key that could change anything, and nothing of another shape", () => {
  for (const m of [
    { shelf: "key", key: "z", ctrl: true },
    { shelf: "key", key: "s", ctrl: true },
    { shelf: "key", key: "k", ctrl: false },
    { shelf: "key", key: "Escape", ctrl: true },
    { shelf: "key", key: "Delete" },
    { shelf: "changed", left: 3 },
    { shelf: "sketch", signs: ["a"] },
    { shelf: "sketch", signs: Array.from({ length: 5001 }, () => 1) },
    { shelf: "key", key: ["?"] },
    { shelf: "key" },
    { shelf: "scrolled", top: "1" },
    { shelf: "scrolled", top: Infinity },
    { shelf: "scrolled", top: -1 },
    { shelf: "lit", left: NaN, width: 1 },
    { shelf: "lit", left: 0, width: -1 },
    { shelf: "scrolled" },
    { shelf: "point", addresses: "main", blocks: [] },
    { shelf: "point", addresses: [1], blocks: [] },
    { shelf: "point", addresses: [] },
    { shelf: "point", addresses: Array(201).fill("a"), blocks: [] },
    { shelf: "own", at: 1.5, tag: "p" },
    { shelf: "own", at: 1 },
    { shelf: "own", at: "1", tag: "p" },
    { shelf: "follow", href: "" },
    { shelf: "follow", href: "x".repeat(5000) },
    { shelf: "follow", href: {} },
    { shelf: "save" },
    { shelf: 1 },
    {},
    null,
    undefined,
    "ready",
    3,
    [],
  ])
    expect(heard(m), JSON.stringify(m)).toBeNull();
});
