import type { Field } from "../../api/client";

/** The arguments that a sample call gives, as a person types them. Only plain texts,
 *  numbers and words are taken; the rest can be typed. */
export function argumentsIn(sample: string): Record<string, string> {
  const head =
    /^\s*@\{[a-z0-9-]+((?:"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|[^}"'])*)\}/.exec(sample)?.[1] ?? "";
  const out: Record<string, string> = {};
  for (const m of head.matchAll(
    /([a-z0-9-]+)=(?:"((?:\\.|[^"\\])*)"|'((?:\\.|[^'\\])*)'|([^\s"'[{(/]+))/g,
  )) {
    if (m[1]) out[m[1]] = (m[2] ?? m[3] ?? m[4] ?? "").replace(/\\(.)/g, "$1");
  }
  return out;
}

/** What a sample call encloses. */
export function enclosedIn(sample: string): string {
  return (
    /^\s*@\{([a-z0-9-]+)(?:"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|[^}"'])*(?<!\/)\}([\s\S]*)@\{\/\1\}\s*$/.exec(
      sample,
    )?.[2] ?? ""
  );
}

/** A call with something else enclosed in it. */
export function enclosing(call: string, inner: string): string {
  const found =
    /^(\s*@\{([a-z0-9-]+)(?:"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|[^}"'])*(?<!\/)\})[\s\S]*(@\{\/\2\}\s*)$/.exec(
      call,
    );
  return found ? `${found[1] ?? ""}${inner}${found[3] ?? ""}` : call;
}

/** A value that fits a field, for one that needs one and of which no sample tells. */
export function madeUp(f: Field): string {
  switch (f.type) {
    case "number":
      return f.min || "1";
    case "switch":
      return "true";
    case "choice":
      return f.choices[0] ?? "";
    case "colour":
      return "#1e6e74";
    case "date":
      return f.min || "2026-03-01";
    case "link":
    case "page":
      return "/";
    case "text":
    case "lines":
    case "rich":
      return f.label;
    default:
      return "";
  }
}

/** What a new script begins as. */
export function blank(title: string): string {
  return `/*
title: ${JSON.stringify(title)}
about: What this is for.
params:
  text: {type: text, label: Text, default: Hello}
*/

function shortcode({ args }) {
  return html\`<p>\${args.text}</p>\`;
}
`;
}
