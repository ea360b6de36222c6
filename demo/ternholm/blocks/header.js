export default function (root) {
  const button = root.querySelector(".menu-button");
  if (!button) return;
  const show = (open) => {
    button.setAttribute("aria-expanded", String(open));
    root.classList.toggle("open", open);
  };
  button.hidden = false;
  root.classList.add("folds");
  button.addEventListener("click", () => show(button.getAttribute("aria-expanded") !== "true"));
  root.addEventListener("keydown", (e) => {
    if (e.key !== "Escape" || !root.classList.contains("open")) return;
    show(false);
    button.focus();
  });
}
