/** The elements that stand as blocks; a text without one stands within a line. */
const blocks = /<(p|h[1-6]|ul|ol|blockquote|pre|hr|div|table|dl|figure)\b/i;

/** Whether a rich text stands within a line, and has to stay so. */
export const inLine = (html: string) => !blocks.test(html);

/** A rich text as the editor gives it, without the paragraph around one that stands within a line. */
export function unwrapped(html: string, line: boolean): string {
  if (html === "<p></p>") return "";
  const only = /^<p>([\s\S]*)<\/p>$/.exec(html)?.[1];
  return line && only !== undefined && !only.includes("<p") ? only : html;
}

function plain(html: string): string {
  const body = new DOMParser().parseFromString(html, "text/html").body;
  const walker = document.createTreeWalker(body, NodeFilter.SHOW_TEXT);
  const texts: Text[] = [];
  for (let n = walker.nextNode(); n; n = walker.nextNode()) texts.push(n as Text);
  for (const t of texts) {
    if (t.data.trim() === "" && /\n/.test(t.data)) t.remove();
    else t.data = t.data.replace(/\s+/g, " ");
  }
  for (const e of body.querySelectorAll("p, li, h1, h2, h3, h4, h5, h6, blockquote")) {
    const [first, last] = [e.firstChild, e.lastChild];
    if (first instanceof Text) first.data = first.data.trimStart();
    if (last instanceof Text) last.data = last.data.trimEnd();
  }
  for (const e of body.querySelectorAll("*"))
    for (const { name, value } of [...e.attributes].sort((a, b) => (a.name < b.name ? -1 : 1))) {
      e.removeAttribute(name);
      e.setAttribute(name, value);
    }
  return body.innerHTML
    .replace(/<(\/?)b>/g, "<$1strong>")
    .replace(/<(\/?)i>/g, "<$1em>")
    .replace(
      /<li>(?!<p>)((?:(?!<\/?(?:li|ul|ol|p)\b)[\s\S])*)(<\/li>|<ul>|<ol>)/g,
      "<li><p>$1</p>$2",
    )
    .trim();
}

/** Whether the editor keeps all of a rich text: what it makes of it says the same. */
export const keeps = (html: string, made: string) => plain(html) === plain(made);
