// Lights up placements in a preview and tells the tool what is pointed at, followed, scrolled
// and pressed there. It runs in the sandbox of the preview and can reach nothing but its own
// document.
(() => {
  const words = (element, name) => (element.getAttribute(name) || "").split(" ");
  const tell = (message) => parent.postMessage(message, "*");
  const above = (target, selector) => target.closest && target.closest(selector);

  const unlight = () => {
    for (const e of document.querySelectorAll("[data-shelf-lit]")) {
      e.removeAttribute("data-shelf-lit");
    }
  };

  const light = ({ address, block, scroll }) => {
    unlight();
    if (!address && !block) return;
    const meant = address
      ? (e) => words(e, "data-shelf-at").includes(address)
      : (e) => words(e, "data-shelf-block").some((b) => b.split(":")[0] === block);
    const all = [...document.querySelectorAll("[data-shelf-at]")].filter(meant);
    for (const e of all) e.setAttribute("data-shelf-lit", "");
    const [first] = all;
    if (!first) return;
    const at = first.getBoundingClientRect();
    // What has no room in the middle is shown from its beginning.
    if (scroll) first.scrollIntoView({ block: at.height > innerHeight ? "start" : "center" });
    tell({ shelf: "lit", left: at.left, width: at.width });
  };

  const lit = () => document.querySelector("[data-shelf-lit]")?.getBoundingClientRect().top ?? null;

  // Where a version of the page is to stand: what is lit at the height at which it stood, whatever
  // has changed above it; until somebody scrolls, or everything is there.
  let place = null;
  const stand = () => {
    if (!place) return;
    const now = lit();
    if (now !== null && place.lit !== null) scrollBy(0, now - place.lit);
    else scrollTo(0, place.top);
  };
  for (const kind of ["wheel", "touchmove", "keydown", "pointerdown"])
    addEventListener(kind, () => (place = null), { passive: true, capture: true });
  addEventListener("load", stand);

  /** Tells of an element that stands in the page's own text, or of the placements around. */
  const point = (target, more) => {
    const own = above(target, "[data-shelf-own]");
    const near = above(target, "[data-shelf-at]");
    const within = near && near !== own && own && own.contains(near);
    if (own && !within && !own.hasAttribute("data-shelf-at")) {
      const at = Number(own.getAttribute("data-shelf-own"));
      tell({ shelf: "own", at, tag: own.localName, more });
      if (!more) unlight();
      own.setAttribute("data-shelf-lit", "");
      return;
    }
    const addresses = [];
    const blocks = [];
    for (let n = near; n; n = n.parentElement && n.parentElement.closest("[data-shelf-at]")) {
      addresses.push(...words(n, "data-shelf-at").reverse());
      blocks.push(...words(n, "data-shelf-block").reverse());
    }
    if (addresses.length) tell({ shelf: "point", addresses, blocks });
  };

  addEventListener("message", ({ data }) => {
    if (data && data.shelf === "light") light(data);
    if (data && data.shelf === "scroll") {
      place = { top: data.top, lit: typeof data.lit === "number" ? data.lit : null };
      stand();
    }
  });

  let frame = 0;
  addEventListener("scroll", () => {
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(() => tell({ shelf: "scrolled", top: scrollY, lit: lit() }));
  });

  document.addEventListener(
    "click",
    (e) => {
      const link = above(e.target, "a[href]");
      if (!link) return point(e.target, e.shiftKey);
      const href = link.getAttribute("href");
      if (href.startsWith("#")) return;
      e.preventDefault();
      tell({ shelf: "follow", href });
    },
    true,
  );

  addEventListener("keydown", (e) => {
    const ctrl = e.ctrlKey || e.metaKey;
    if (ctrl ? e.key === "k" : ["Escape", "[", "]", "?"].includes(e.key)) {
      e.preventDefault();
      tell({ shelf: "key", key: e.key, ctrl });
    }
  });

  tell({ shelf: "ready" });
})();
