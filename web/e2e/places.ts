import type { Page } from "@playwright/test";

/** Every place, with what is shown there first. */
export const places = [
  "blocks/footer",
  "blocks/footer?tab=placements",
  "blocks/port-card?tab=values",
  "blocks/footer?tab=manage",
  "blocks/footer?tab=history",
  "blocks/footer?peek=/about/",
  "scripts/tide-clock",
  "pages?doc=pages/about.html",
  "pages?doc=pages/about.html&tab=settings",
  "rules",
  "rules/notice",
  "roll-out",
  "words?text=office",
  "layouts/port",
  "menus/main",
  "files",
  "site",
  "reference",
  "checks",
  "review",
  "parts",
  "repeats",
];

/** What is wrong with how a place stands in its window. */
export const amiss = (page: Page) =>
  page.evaluate(() => {
    const out: string[] = [];
    const beyond = document.documentElement.scrollWidth - innerWidth;
    if (beyond > 0) out.push(`it can be scrolled ${beyond} px sideways`);
    const seen = (e: Element) => e.checkVisibility({ visibilityProperty: true });
    for (const e of document.querySelectorAll<HTMLElement>("body *")) {
      const own = [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent?.trim());
      const size = parseFloat(getComputedStyle(e).fontSize);
      if (own && seen(e) && size < 12 && !e.closest("[aria-hidden], .unseen"))
        out.push(`${e.textContent.trim().slice(0, 40)} is ${size} px high`);
    }
    for (const e of document.querySelectorAll<HTMLElement>("a, button, input, [role=tab]")) {
      const at = e.getBoundingClientRect();
      if (at.width < 2 || !seen(e) || e.closest("[aria-hidden], .cm-editor, .skip")) continue;
      let right = innerWidth;
      let scrolled = false;
      for (let box = e.parentElement; box; box = box.parentElement) {
        const { overflowX } = getComputedStyle(box);
        scrolled ||= overflowX === "auto" || overflowX === "scroll";
        if (overflowX === "hidden" || overflowX === "clip")
          right = Math.min(right, box.getBoundingClientRect().right);
      }
      if (!scrolled && at.right > right + 1)
        out.push(`${e.textContent || e.getAttribute("aria-label") || e.outerHTML} is cut off`);
    }
    const main = document.querySelector("main");
    const room = main?.getBoundingClientRect();
    if (!main || !room || room.height < 80) out.push("the place has no room");
    return out;
  });
