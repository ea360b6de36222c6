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
      })),
      ...words.map((label) => ({ label, type: "keyword" })),
    ];
    return { from: open + 2 + (tag.startsWith("/") ? 1 : 0), options };
  }
  const entry = known.entries.find((e) => e.name === /^[a-z0-9-]+/.exec(tag)?.[0]);
  if (!entry) return null;
  const argument = /\s([a-z0-9-]+)=(["']?)([^"'\s]*)$/.exec(tag);
  if (argument) {
    const field = entry.fields.find((f) => f.name === argument[1]);
    if (!field) return null;
    return {
      from: before.length - (argument[3]?.length ?? 0),
      options: fitting(field, known.choices).map((label) => ({ label })),
    };
  }
  const parameter = /\s([a-z0-9-]*)$/.exec(tag);
  const quotes = tag.split('"').length - 1;
  if (!parameter || quotes % 2 === 1) return null;
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
export function help(known: () => Known) {
  const source = (c: CompletionContext): CompletionResult | null => {
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
      return { pos: at, end: at + m[0].length, create: () => ({ dom: card(entry) }) };
    }
    return null;
  });
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
