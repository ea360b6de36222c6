export default function (root) {
  const button = root.querySelector(".menu-button");
  const nav = root.querySelector("nav");
  if (!button || !nav) return;
  const show = (open) => {
    button.setAttribute("aria-expanded", String(open));
    root.classList.toggle("open", open);
    if (open) nav.querySelector("a")?.focus();
  };
  const unfold = (opener, open) => {
    opener.setAttribute("aria-expanded", String(open));
    opener.parentElement.classList.toggle("open", open);
  };
  const openers = [...nav.querySelectorAll(".opens")];
  const press = (e) => {
    const opener = e.currentTarget;
    const open = opener.getAttribute("aria-expanded") !== "true";
    for (const other of openers)
      if (other !== opener && !other.parentElement.contains(opener)) unfold(other, false);
    unfold(opener, open);
  };
  const away = (e) => {
    if (!root.contains(e.target)) for (const opener of openers) unfold(opener, false);
  };
  button.hidden = false;
  root.classList.add("folds");
  for (const opener of openers) {
    opener.hidden = false;
    opener.addEventListener("click", press);
  }
  button.addEventListener("click", () => show(button.getAttribute("aria-expanded") !== "true"));
  root.addEventListener("keydown", (e) => {
    if (e.key !== "Escape") return;
    const unfolded = openers.findLast((o) => o.getAttribute("aria-expanded") === "true");
    if (unfolded) {
      unfold(unfolded, false);
      unfolded.focus();
    } else if (root.classList.contains("open")) {
      show(false);
      button.focus();
    }
  });
  document.addEventListener("click", away);
  return () => document.removeEventListener("click", away);
}
