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
