// Holds a state of a block in a preview, so that it can be looked at. Runs in its sandbox.
(() => {
  const of = (element, block) =>
    (element.getAttribute("data-shelf-block") || "")
      .split(" ")
      .some((b) => b.split(":")[0] === block);
  const states = ["hover", "focus", "focus-visible", "focus-within", "active"];
  const held = (name) => `[data-shelf-held~="${name}"]`;
  const sheets = new Map();

  /** The rules of a style sheet that speak of a state, with the mark of one that is held in its place. */
  const holding = (rules) => {
    let text = "";
    for (const rule of rules) {
      if (
        rule.selectorText !== undefined &&
        states.some((s) => rule.selectorText.includes(`:${s}`))
      ) {
        const selector = rule.selectorText.replace(
          /:(focus-visible|focus-within|focus|hover|active)(?![-\w])/g,
          (_, state) => held(state.startsWith("focus") ? "focus" : state),
        );
        text += `${selector}{${rule.style.cssText}}`;
      } else if (rule.conditionText !== undefined && rule.cssRules) {
        const within = holding(rule.cssRules);
        if (within) text += `${/^@\S+/.exec(rule.cssText)[0]} ${rule.conditionText}{${within}}`;
      }
    }
    return text;
  };

  /** A page's style sheets can be read once they are loaded as another origin may read them. */
  const readable = () =>
    Promise.all(
      [...document.querySelectorAll('link[rel="stylesheet"], style')].map((sheet) => {
        if (sheets.has(sheet)) return sheets.get(sheet);
        const read = (s) => {
          try {
            const style = document.createElement("style");
            style.textContent = holding(s.cssRules);
            document.head.append(style);
            sheets.set(style, Promise.resolve());
          } catch {
            // of another site, which lets nobody read it
          }
        };
        const loaded =
          sheet.localName === "style"
            ? Promise.resolve(read(sheet.sheet))
            : new Promise((done) => {
                const open = sheet.cloneNode();
                open.crossOrigin = "anonymous";
                open.disabled = false;
                sheets.set(open, Promise.resolve());
                open.addEventListener("load", () => {
                  read(open.sheet);
                  open.remove();
                  done();
                });
                open.addEventListener("error", () => {
                  open.remove();
                  done();
                });
                sheet.after(open);
              });
        sheets.set(sheet, loaded);
        return loaded;
      }),
    );

  let keeping = "";
  const hold = async (state, block) => {
    keeping = state;
    for (const e of document.querySelectorAll("[data-shelf-held]"))
      e.removeAttribute("data-shelf-held");
    for (const e of document.querySelectorAll("[data-shelf-opened]")) {
      e.removeAttribute("data-shelf-opened");
      if (e.localName === "details") e.open = false;
      if (e.localName === "dialog") e.close();
      if (e.hasAttribute("popover")) e.hidePopover();
    }
    if (!state) return;
    await readable();
    if (keeping !== state) return;
    const tops = [...document.querySelectorAll("[data-shelf-at]")].filter((e) => of(e, block));
    for (const e of tops.flatMap((top) => [top, ...top.querySelectorAll("*")])) {
      if (state !== "open") e.setAttribute("data-shelf-held", state);
      else if (e.matches("details:not([open])")) e.open = true;
      else if (e.matches("dialog:not([open])")) e.show();
      else if (e.matches("[popover]:not(:popover-open)")) e.showPopover();
      else continue;
      if (state === "open") e.setAttribute("data-shelf-opened", "");
    }
  };

  /** Leaves of a page what shows a block, the first time that it stands there. */
  const alone = new URLSearchParams(location.search).get("shelf-alone");
  const all = !alone
    ? []
    : alone.startsWith(".")
      ? [...document.querySelectorAll(alone)]
      : [...document.querySelectorAll("[data-shelf-at]")].filter((e) => of(e, alone));
  const own = (e) =>
    (e.getAttribute("data-shelf-at") || "").split(" ").some((at) => at.startsWith("main/"));
  const top = all.find(own) || all[0];
  const shown = top ? [top] : [];
  for (let e = top && top.nextElementSibling; e && of(e, alone); e = e.nextElementSibling)
    shown.push(e);
  for (let e = top; e && e !== document.body; e = e.parentElement)
    for (const other of e.parentElement.children)
      if (other !== e && !shown.includes(other) && !other.matches("script, style, link"))
        other.hidden = true;
  if (top) document.documentElement.setAttribute("data-shelf-alone", "");

  addEventListener("message", ({ data }) => {
    if (data && data.shelf === "hold") hold(data.state, data.block);
  });
})();
