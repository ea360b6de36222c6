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

  /** The elements of the page's own text that begin in a stretch of its document. */
  const within = ([from, to]) =>
    [...document.querySelectorAll("[data-shelf-own]")].filter((e) => {
      const at = Number(e.getAttribute("data-shelf-own"));
      return at >= from && at < to && !["html", "head", "body"].includes(e.localName);
    });

  const light = ({ address, block, own, scroll }) => {
    unlight();
    if (!address && !block && !own) return;
    const meant = address
      ? (e) => words(e, "data-shelf-at").includes(address)
      : (e) => words(e, "data-shelf-block").some((b) => b.split(":")[0] === block);
    const every = own
      ? within(own)
      : [...document.querySelectorAll("[data-shelf-at]")].filter(meant);
    const all = own ? every.filter((e) => !every.some((o) => o !== e && o.contains(e))) : every;
    for (const e of all) e.setAttribute("data-shelf-lit", "");
    const [first] = all;
    if (!first) return;
    if (scroll) {
      bring(first);
      place = { top: 0, lit: null, sought: first };
    }
    const at = first.getBoundingClientRect();
    tell({ shelf: "lit", left: at.left, width: at.width });
  };

  /** Brings an element into the middle of the window, or to its top where there is no room for it in
   *  the middle. Its own way to do so would move what the tool has around the preview as well. */
  const bring = (element) => {
    for (let n = element.parentElement; n && n !== document.body; n = n.parentElement) {
      const { top, height } = n.getBoundingClientRect();
      const at = element.getBoundingClientRect();
      if (n.scrollHeight > n.clientHeight && (at.top < top || at.bottom > top + height)) {
        n.scrollTop += at.top - top;
      }
    }
    const at = element.getBoundingClientRect();
    scrollBy(0, at.top - Math.max(0, (innerHeight - at.height) / 2));
  };

  // What is shown, as numbers: one for each element of what is lit, else of the page, by its name,
  // attributes and own words. By them the next version finds what has changed.
  const longest = 5000;
  const unseen = ["script", "style", "link", "template"];
  const elements = () => {
    const lit = document.querySelectorAll("[data-shelf-lit]");
    return [...(lit.length ? lit : [document.body])]
      .flatMap((root) => [root, ...root.querySelectorAll("*")])
      .filter((e) => !unseen.includes(e.localName))
      .slice(0, longest);
  };
  const sign = (element) => {
    let text = element.localName;
    for (const a of element.attributes) {
      if (!a.name.startsWith("data-shelf")) text += ` ${a.name}=${a.value}`;
    }
    for (const n of element.childNodes) {
      if (n.nodeType === Node.TEXT_NODE) text += n.data.trim();
    }
    let out = 0;
    for (let i = 0; i < text.length; i++) out = (out * 31 + text.charCodeAt(i)) | 0;
    return out;
  };
  const sketch = () => tell({ shelf: "sketch", signs: elements().map(sign) });

  /** Brings the first element that is another one than before into sight, where it is not. */
  const seek = (before) => {
    const now = elements();
    const at = now.findIndex((e, i) => sign(e) !== before[i]);
    const changed = at >= 0 ? now[at] : now.length < before.length ? now.at(-1) : null;
    const box = changed && changed.getBoundingClientRect();
    if (!box || (box.width === 0 && box.height === 0)) return;
    const seen = Math.min(box.bottom, innerHeight) - Math.max(box.top, 0);
    if (seen < Math.min(box.height, innerHeight) / 2) {
      bring(changed);
      place = { top: scrollY, lit: lit(), sought: changed };
    }
    tell({ shelf: "changed", left: box.left, width: box.width });
  };

  const lit = () => document.querySelector("[data-shelf-lit]")?.getBoundingClientRect().top ?? null;

  // Where a version of the page is to stand: what was sought in the middle, else what is lit at the
  // height at which it stood, whatever has changed above it or around the page; until somebody scrolls.
  let place = null;
  const stand = () => {
    if (!place) return;
    if (place.sought) return bring(place.sought);
    const now = lit();
    if (now !== null && place.lit !== null) scrollBy(0, now - place.lit);
    else scrollTo(0, place.top);
  };
  for (const kind of ["wheel", "touchmove", "keydown", "pointerdown"])
    addEventListener(kind, () => (place = null), { passive: true, capture: true });
  addEventListener("load", stand);
  addEventListener("resize", stand);

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
    if (data && data.shelf === "light") {
      light(data);
      sketch();
    }
    if (data && data.shelf === "scroll") {
      place = { top: data.top, lit: typeof data.lit === "number" ? data.lit : null };
      stand();
      if (Array.isArray(data.signs)) seek(data.signs);
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
