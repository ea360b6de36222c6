import type { FieldType } from "../../api/client";

/** What is typed of a new field. parts are its choices, or the fields of an entry of a list, with
 *  commas between. */
export interface NewField {
  name: string;
  label: string;
  type: FieldType;
  parts: string;
}

const split = (parts: string) =>
  parts
    .split(",")
    .map((p) => p.trim())
    .filter(Boolean);

/** How a field is declared in front matter. */
export function declaration({ name, label, type, parts }: NewField): Record<string, unknown> {
  const named = label.trim() && label.trim() !== name ? { label: label.trim() } : {};
  switch (type) {
    case "choice":
      return { type, ...named, choices: split(parts), default: split(parts)[0] };
    case "list":
      return {
        type,
        ...named,
        fields: Object.fromEntries(split(parts).map((p) => [p, { type: "text" }])),
      };
    default:
      return { type, ...named };
  }
}

/** Markup that shows a field. */
export function showing({ name, label, type, parts }: NewField): string {
  switch (type) {
    case "switch":
      return `@{when ${name}}…@{/when}`;
    case "list":
      return `<ul>\n@{each ${name} as entry}<li>@{=entry.${split(parts)[0] ?? "text"}}</li>\n@{/each}</ul>`;
    case "link":
      return `<a href="@{=${name}}">${label.trim() || name}</a>`;
    case "image":
      return `<img src="@{=${name}}" alt="">`;
    case "menu":
      return `@{menu name=(${name}) /}`;
    default:
      return `@{=${name}}`;
  }
}

/** Whether a field can be declared so. */
export const declarable = ({ name, type, parts }: NewField, taken: string[]) =>
  name !== "" &&
  !taken.includes(name) &&
  ((type !== "choice" && type !== "list") || split(parts).length > 0);
