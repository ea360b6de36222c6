let made = 0;

export default function (root) {
  const panels = [...root.querySelectorAll(":scope > [data-tab]")];
  const set = ++made;
  const list = document.createElement("div");
  list.setAttribute("role", "tablist");
  const show = (at) => panels.forEach((panel, i) => {
    panel.hidden = i !== at;
    list.children[i].setAttribute("aria-selected", String(i === at));
    list.children[i].tabIndex = i === at ? 0 : -1;
  });
  panels.forEach((panel, i) => {
    const tab = document.createElement("button");
    tab.type = "button";
    tab.id = `tab-${set}-${i}`;
    tab.setAttribute("role", "tab");
    tab.textContent = panel.dataset.tab;
    panel.setAttribute("role", "tabpanel");
    panel.setAttribute("aria-labelledby", tab.id);
    tab.addEventListener("click", () => show(i));
    tab.addEventListener("keydown", (e) => {
      const step = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
      if (!step) return;
      const next = (i + step + panels.length) % panels.length;
      show(next);
      list.children[next].focus();
    });
    list.append(tab);
  });
  root.prepend(list);
  show(0);
  return () => {
    list.remove();
    for (const panel of panels) {
      panel.hidden = false;
      panel.removeAttribute("role");
      panel.removeAttribute("aria-labelledby");
    }
  };
}
