// @vitest-environment jsdom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Overview } from "../api/client";
import type { RepeatedPiece } from "../api/repeats";
import { draw, server, sized, type Server } from "../testing/bench";
import { PieceValues } from "./PieceValues";
import { undecided, type Decided } from "./pieces";

const field = { type: "text" as const, types: ["text", "lines"], optional: false, spacing: false };
const places = 2500;
const placeAt = (i: number) => ({
  doc: `pages/p${i}.html`,
  from: 0,
  to: 9,
  values: [`Ida ${i}`, "1890", " ", `Gate ${i} · Yard`],
});
const piece: RepeatedPiece = {
  piece: {
    id: "foot-1",
    title: "Foot",
    kind: "frame",
    pages: places,
    places,
    bytes: 9000,
    within: "",
    fields: [
      { ...field, name: "keeper", values: places },
      { ...field, name: "since", values: 1, optional: true },
      { ...field, name: "gap", values: 2, spacing: true },
      {
        ...field,
        name: "ways",
        type: "list",
        types: ["list"],
        values: 3,
        fields: [
          { ...field, name: "address", values: 5 },
          { ...field, name: "label", values: 5 },
        ],
      },
    ],
    example: placeAt(0),
  },
  markup: "",
  docs: [],
  places: [],
  odd: [
    { doc: "pages/odd.html", from: 0, to: 9, differs: { line: 7, text: "@{year /} and more" } },
    { doc: "pages/short.html", from: 0, to: 9, differs: { line: 9, text: "" } },
  ],
};

const told = vi.fn<(d: Decided) => void>();
const now = () => told.mock.lastCall?.[0];

function Table() {
  const [decided, setDecided] = useState(undecided);
  const decide = (d: Decided) => {
    told(d);
    setDecided(d);
  };
  return (
    <PieceValues
      piece={piece}
      overview={{ pages: [{ doc: "pages/p1.html", title: "The pond" }] } as Overview}
      decided={decided}
      decide={decide}
    />
  );
}

describe("the values of a piece", () => {
  let asked: Server;
  beforeEach(() => {
    sized();
    asked = server();
    draw(<Table />);
  });

  it("ask for the places that are in sight, and say where odd ones differ", async () => {
    const part = await asked.next("GET /repeats/foot-1");
    await part.answer({ ...piece, places: Array.from({ length: 1000 }, (_, i) => placeAt(i)) });
    const row = (name: RegExp) => screen.getByRole("row", { name });
    await waitFor(() => expect(row(/The pond/).textContent).toContain("Ida 1"));
    expect(row(/The pond/).textContent).toContain("Gate 1 · Yard");
    expect(screen.getByText("list of address, label")).toBeTruthy();
    expect(row(/odd\.html/).textContent).toContain("differs from line 7 on, @{year /} and more");
    expect(row(/short\.html/).textContent).toContain("ends in line 9");
    const box = within(row(/odd\.html/)).getByRole<HTMLInputElement>("checkbox");
    expect([box.checked, box.disabled]).toEqual([false, true]);
    expect(screen.queryByText("gap"), "white space is nobody's field").toBeNull();
  });

  it("have fields that are called otherwise, dropped and of another type", () => {
    const name = (of: string) => screen.getByRole("textbox", { name: `Name of the field ${of}` });
    fireEvent.change(name("since"), { target: { value: "keeper" } });
    expect(screen.getAllByText("one field with the other of that name")).toHaveLength(2);
    fireEvent.click(screen.getByRole("button", { name: "Drop the field since" }));
    expect(screen.queryByText("one field with the other of that name")).toBeNull();
    expect(screen.getByText("what most say stands there")).toBeTruthy();
    expect(name("since")).toHaveProperty("disabled", true);
    expect(now()?.drop).toEqual(["since"]);
    fireEvent.click(screen.getByRole("button", { name: "Make since a field again" }));
    expect(now()?.drop).toEqual([]);
    fireEvent.mouseDown(screen.getByRole("combobox", { name: "Type of the field keeper" }));
    fireEvent.click(screen.getByRole("option", { name: "lines" }));
    expect(now()?.types).toEqual({ keeper: "lines" });
  });
});
