for (const box of document.querySelectorAll(".tabs")) {
  const panels = [...box.querySelectorAll("[data-tab]")];
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
    tab.setAttribute("role", "tab");
    tab.textContent = panel.dataset.tab;
    panel.setAttribute("role", "tabpanel");
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
  box.prepend(list);
  show(0);
}
