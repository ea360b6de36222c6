export default function (root, { values }) {
  const key = `closed ${values.id}`;
  const remembered = (write) => {
    try {
      return write ? write(localStorage) : localStorage.getItem(key);
    } catch {
      return null; // where nothing can be kept, it is open
    }
  };
  const small = matchMedia("(max-width: 800px)").matches && !values.inline;
  if (remembered() || small) root.open = false;
  root.addEventListener("toggle", () =>
    remembered((kept) => (root.open ? kept.removeItem(key) : kept.setItem(key, "1"))),
  );
}
