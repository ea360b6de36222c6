import { css } from "@codemirror/lang-css";
import { html } from "@codemirror/lang-html";
import { javascript } from "@codemirror/lang-javascript";
import type { LanguageSupport } from "@codemirror/language";

/** The language that a document is written in, by its path. */
export function languageOf(path: string): LanguageSupport {
  return path.endsWith(".css")
    ? css()
    : path.endsWith(".js")
      ? javascript()
      : html({ autoCloseTags: false });
}
