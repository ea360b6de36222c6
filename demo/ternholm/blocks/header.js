for (const top of document.querySelectorAll(".top")) {
  const button = top.querySelector(".menu-button");
  const show = (open) => {
    button.setAttribute("aria-expanded", String(open));
    top.classList.toggle("open", open);
  };
  button.hidden = false;
  top.classList.add("folds");
  button.addEventListener("click", () => show(button.getAttribute("aria-expanded") !== "true"));
  top.addEventListener("keydown", (e) => {
    if (e.key !== "Escape" || !top.classList.contains("open")) return;
    show(false);
    button.focus();
  });
}
