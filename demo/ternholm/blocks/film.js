export default function (root) {
  const open = (e) => {
    const opener = e.target.closest?.(`a[href="#${root.id}"]`);
    if (!opener) return;
    e.preventDefault();
    root.showModal();
    root.addEventListener("close", () => opener.focus(), { once: true });
  };
  root.classList.add("scripted");
  document.addEventListener("click", open);
  return () => document.removeEventListener("click", open);
}
