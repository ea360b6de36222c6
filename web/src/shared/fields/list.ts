import type { Field } from "../../api/client";

export type Item = Record<string, unknown>;

/** Reads the items of a list as fields hold it, JSON; what cannot be read is none. */
export function readItems(value: string): Item[] {
  try {
    const v = JSON.parse(value || "[]") as unknown;
    return Array.isArray(v) ? (v as Item[]) : [];
  } catch {
    return [];
  }
}

/** A member's value as a person types it. */
export function textOf(value: unknown, otherwise: string): string {
  if (value === undefined || value === null) return otherwise;
  return typeof value === "string" ? value : JSON.stringify(value);
}

/** A member's value as JSON has it, from what a person typed. */
export function valueOf(field: Field, text: string): unknown {
  if (field.type === "switch") return text === "true";
  if (field.type === "list") return readItems(text);
  if (field.type === "link" && text.startsWith("{")) return JSON.parse(text) as unknown;
  return text;
}

/** What an item of a list is called: the first of its fields that says something in words. */
export function titleOf(field: Field, item: Item): string {
  for (const sub of field.fields) {
    const v = item[sub.name];
    const text =
      typeof v === "string"
        ? v
        : v !== null && typeof v === "object" && "label" in v && typeof v.label === "string"
          ? v.label
          : "";
    const words = text.replace(/<[^>]*>/g, " ").trim();
    if (words && sub.type !== "switch" && sub.type !== "colour") return words;
  }
  return "";
}
