import {
  autocompletion,
  startCompletion,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from "@codemirror/autocomplete";
import { hoverTooltip, type EditorView } from "@codemirror/view";
import type { Entry, Field } from "../../api/client";
import type { Choices } from "../fields/choices";

export interface Known {
  entries: Entry[];
  choices: Choices;
  fields: Field[]; // of the block that is being edited
}

/** What is told of a call goes as soon as something is written. */
const leaving = { hideOnChange: true };

const words = ["when", "each", "copy", "else"];

/** What could stand at the end of a text: names of calls, their parameters, and
 *  values that fit them. */
export function complete(
  before: string,
  known: Known,
): { from: number; options: Completion[] } | null {
  const open = before.lastIndexOf("@{");
  if (open < 0 || before[open - 1] === "@" || before.indexOf("}", open) >= 0) return null;
  const tag = before.slice(open + 2);
  const value = /^(=|when\s+(?:not\s+)?|each\s+)([a-z0-9_.-]*)$/.exec(tag);
  if (value) {
    const names = [
      ...known.fields.map((f) => ({ label: f.name, detail: f.type })),
      ...["inner", "page.title", "page.url", "page.root", "site.name"].map((label) => ({ label })),
    ];
    return { from: before.length - (value[2]?.length ?? 0), options: names };
  }
  const name = /^\/?[a-z0-9-]*$/.exec(tag);
  if (name) {
    const options = [
      ...known.entries.map((e): Completion => ({
        label: e.name,
        detail: e.title === e.name ? e.kind : e.title,
        info: e.about || undefined,
        type: "function",
        apply: tag.startsWith("/") ? e.name : whole(e),
      })),
      ...words.map((label) => ({ label, type: "keyword" })),
    ];
    return { from: open + 2 + (tag.startsWith("/") ? 1 : 0), options };
  }
  const entry = known.entries.find((e) => e.name === /^[a-z0-9-]+/.exec(tag)?.[0]);
  if (!entry) return null;
  const argument = /\s([a-z0-9-]+)=(["'`]?)([^"'`\s]*)$/.exec(tag);
  if (argument) {
    const field = entry.fields.find((f) => f.name === argument[1]);
    if (!field) return null;
    return {
      from: before.length - (argument[3]?.length ?? 0),
      options: fitting(field, known.choices).map((label) => ({ label })),
    };
  }
  const parameter = /\s([a-z0-9-]*)$/.exec(tag);
  const within = ['"', "`"].some((q) => tag.split(q).length % 2 === 0);
  if (!parameter || within) return null;
  const options = entry.fields
    .filter((f) => !new RegExp(`\\s${f.name}=`).test(tag))
    .map((f): Completion => ({
      label: f.name,
      detail: f.required ? `${f.type}, required` : f.type,
      info: f.help || f.label,
      type: "property",
      boost: f.required ? 1 : 0,
      apply: f.type === "switch" || f.type === "number" ? `${f.name}=` : `${f.name}="`,
    }));
  return { from: before.length - (parameter[1]?.length ?? 0), options };
}

/** Puts a call as it has to end, with the arguments that it needs, unless it goes on already. The
 *  cursor stands in the first of them, or where what it encloses goes. */
function whole(e: Entry) {
  return (view: EditorView, _: Completion, from: number, to: number) => {
    const behind = view.state.sliceDoc(to, Math.min(to + 200, view.state.doc.length));
    const goesOn = /^[^\n@]*\}/.test(behind);
    const args = e.fields.filter((f) => f.required).map((f) => ` ${f.name}=""`);
    const head = `${e.name}${goesOn ? "" : args.join("")}`;
    const text = goesOn ? head : e.encloses ? `${head}}@{/${e.name}}` : `${head} /}`;
    const first = goesOn ? -1 : text.indexOf('""');
    const cursor = first >= 0 ? first + 1 : e.encloses && !goesOn ? head.length + 1 : head.length;
    view.dispatch({
      changes: { from, to, insert: text },
      selection: { anchor: from + cursor },
      userEvent: "input.complete",
    });
  };
}

/** The keys of front matter and what they say, by the kind of document. */
const keys: Record<string, [string, string][]> = {
  blocks: [
    ["title", "What it is called on the shelf."],
    ["category", "Among which it stands on the shelf."],
    ["about", "What it is for."],
    ["sample", "A call of it, as it is shown where it stands on no page."],
    ["behaviour", "What its behaviour is given, needs and waits for."],
    ["overlay", "true: it opens over the page, under the id in its field id."],
    ["fields", "The values that each placement can have its own of."],
  ],
  pages: [
    ["title", "The page's title."],
    ["layout", "The layout in which it stands."],
    ["fields", "Values of the fields that its layout declares."],
    ["tags", "Words by which rules can name it."],
    ["draft", "true: it is not published."],
    ["overrides", "Values of its own, by the address of a placement."],
    ["hidden", "Addresses of placements that it does not show."],
    ["copies", "One-off copies, by the address at which they stand."],
    ["redirect", "The address to which it leads on."],
  ],
  layouts: [
    ["title", "What it is called."],
    ["regions", "The places for blocks, each one or a stack."],
    ["page_fields", "Fields whose values its pages have."],
    ["starts_with", "With what new pages begin, by region."],
  ],
  rules: [
    ["block", "The block that it places."],
    ["region", "The region in which."],
    ["on", "The pages: all, home, layout:NAME, tag:NAME, under:/path/, page:/path/."],
    ["except", "Pages that it leaves out."],
    ["set", "Values of the block's fields."],
    ["at", "start or end of a stack."],
    ["order", "Where several stand: the lower first; in a region for one the higher wins."],
    ["audience", "everyone, signed-in or signed-out."],
    ["from", "The first day, as 2026-03-01."],
    ["until", "The last day."],
    ["enabled", "false: it places nothing."],
    ["note", "Words for whoever reads it."],
  ],
  menus: [
    ["title", "What it is called."],
    ["items", "Its entries."],
  ],
};
const within: Record<string, [string, string][]> = {
  fields: [
    [
      "type",
      "text, lines, rich, number, switch, date, choice, colour, image, page, link, menu, list.",
    ],
    ["label", "What it is called in forms."],
    ["help", "What is said of it in forms."],
    ["default", "Its value where none is given."],
    ["required", "true: every placement needs a value."],
    ["choices", "The values of a choice."],
    ["from", "A page or site value that is taken where it is set."],
    ["min", "The least."],
    ["max", "The most."],
  ],
  behaviour: [
    ["gives", "Fields whose values it is given."],
    ["needs", "Blocks whose behaviours come before it."],
    ["when", "visible: it starts when it comes into view."],
    ["media", "A media query: it runs only while that holds."],
  ],
};

/** Keys that could be typed at the end of a text of YAML: of the document's front matter, of a field,
 *  of its behaviour, or values that a rule sets. */
export function completeKeys(
  before: string,
  path: string,
  known: Known,
): { from: number; options: Completion[] } | null {
  const folder = path.split("/")[0] ?? "";
  const yaml = folder === "rules" || folder === "menus";
  if (!yaml && (!before.startsWith("---") || /\n---[ \t]*\n/.test(before))) return null;
  const lines = before.split("\n");
  const line = lines.at(-1) ?? "";
  const typed = /(?:^|[{,])(\s*)([a-z_-]*)$/.exec(line);
  if (!typed || (line.includes(": ") && !/[{,]\s*[a-z_-]*$/.test(line))) return null;
  const indent = /^ */.exec(line)?.[0].length ?? 0;
  const inBraces = /[{,]\s*[a-z_-]*$/.test(line);
  let around = "";
  for (const l of lines.slice(0, inBraces ? lines.length : -1).reverse()) {
    const key = /^( *)([a-z_-]+):/.exec(l);
    if (!key || (key[1]?.length ?? 0) >= (inBraces ? indent + 1 : indent)) continue;
    around = key[2] ?? "";
    if ((key[1]?.length ?? 0) === 0) break;
  }
  const of = (list: [string, string][] | undefined) =>
    (list ?? []).map(([label, info]): Completion => ({
      label,
      info,
      type: "property",
      apply: `${label}: `,
    }));
  const from = before.length - (typed[2]?.length ?? 0);
  if (indent === 0 && !inBraces) return { from, options: of(keys[folder]) };
  if (folder === "rules" && around === "set") {
    const block = /^block:\s*([a-z0-9-]+)/m.exec(before)?.[1];
    const fields = known.entries.find((e) => e.name === block)?.fields ?? [];
    return { from, options: of(fields.map((f) => [f.name, f.help || f.label])) };
  }
  const options = of(folder === "blocks" ? within[around] : undefined);
  return options.length > 0 ? { from, options } : null;
}

function fitting(f: Field, choices: Choices): string[] {
  switch (f.type) {
    case "choice":
      return f.choices;
    case "switch":
      return ["true", "false"];
    case "page":
    case "link":
      return choices.pages.slice(0, 500).map((p) => p.value);
    case "menu":
      return choices.menus.map((m) => m.value);
    case "image":
      return choices.assets;
  }
  return f.default_text ? [f.default_text] : [];
}

/** Offers what has become known only now, where somebody is typing what it could complete. */
export function offer(view: EditorView, known: Known) {
  const at = view.state.selection.main.head;
  const before = view.state.sliceDoc(Math.max(0, at - 2000), at);
  if (view.hasFocus && complete(before, known)) startCompletion(view);
}

/** Completion and help while pointing, from what is known when they are asked. */
export function help(known: () => Known, path = "") {
  const source = (c: CompletionContext): CompletionResult | null => {
    const begun = c.explicit || /[a-z_-]$/.test(c.state.sliceDoc(Math.max(0, c.pos - 1), c.pos));
    const key = c.pos < 20_000 && begun && completeKeys(c.state.sliceDoc(0, c.pos), path, known());
    if (key && key.options.length > 0) return { ...key, validFor: /^[a-z_-]*$/ };
    const from = Math.max(0, c.pos - 2000);
    const found = complete(c.state.sliceDoc(from, c.pos), known());
    return found && { from: from + found.from, options: found.options, validFor: /^[\w./#:-]*$/ };
  };
  const hover = hoverTooltip((view, pos) => {
    const line = view.state.doc.lineAt(pos);
    for (const m of line.text.matchAll(/@\{([a-z0-9-]+)/g)) {
      const at = line.from + m.index;
      const entry =
        pos >= at && pos <= at + m[0].length
          ? known().entries.find((e) => e.name === m[1])
          : undefined;
      if (!entry) continue;
      return {
        pos: at,
        end: at + m[0].length,
        above: true, // below stands the form of the call
        create: () => ({ dom: card(entry) }),
      };
    }
    return null;
  }, leaving);
  return [autocompletion({ override: [source], icons: false, interactionDelay: 0 }), hover];
}

function card(e: Entry): HTMLElement {
  const dom = document.createElement("div");
  dom.className = "shelf-help";
  const title = dom.appendChild(document.createElement("b"));
  title.textContent = e.title;
  if (e.about) dom.appendChild(document.createElement("p")).textContent = e.about;
  const call = dom.appendChild(document.createElement("code"));
  call.textContent = e.call;
  for (const f of e.fields)
    dom.appendChild(document.createElement("div")).textContent =
      `${f.name}: ${f.type}${f.required ? ", required" : f.default_text ? `, ${f.default_text}` : ""}`;
  return dom;
}
