const untyped = ["checkbox", "radio", "button", "submit", "range", "color", "file"];

/** Whether a key is part of a text that somebody types. */
export const typing = (e: KeyboardEvent) =>
  e.target instanceof HTMLElement &&
  (e.target.isContentEditable ||
    ["TEXTAREA", "SELECT"].includes(e.target.tagName) ||
    (e.target instanceof HTMLInputElement && !untyped.includes(e.target.type)));
