// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { TypedField } from "./TypedField";

afterEach(cleanup);

it("shows every key at once, and what came of them once it is left", () => {
  const said: string[] = [];
  render(<TypedField label="Title" value="Old" change={(v) => said.push(v)} />);
  const input = screen.getByLabelText<HTMLInputElement>("Title");
  for (const key of ["a", "b", "c"])
    fireEvent.change(input, { target: { value: input.value + key } });
  expect(said).toEqual(["Olda", "Oldab", "Oldabc"]);
  fireEvent.blur(input);
  expect(input.value).toBe("Old");
});
