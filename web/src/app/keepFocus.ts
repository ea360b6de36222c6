/** Keeps the focus from falling to nothing where what had it goes, or is switched off: what stood
 *  around it takes it, so that the next key goes on from there. Ends when the result is called. */
export function keepFocus(): () => void {
  let way: HTMLElement[] = []; // from what had the focus last, outwards
  let frame = 0;
  const remember = (e: FocusEvent) => {
    way = [];
    for (let n = e.target as HTMLElement | null; n && n !== document.body; n = n.parentElement)
      way.push(n);
  };
  const look = () => {
    const now = document.activeElement;
    const [last] = way;
    if (!last || (now !== null && now !== document.body && now !== last)) return;
    if (last.isConnected && !last.matches(":disabled")) return; // somebody pressed beside it
    const around = way.slice(1).find((n) => n.isConnected && n.getClientRects().length > 0);
    if (!around) return;
    if (around.tabIndex < 0) around.tabIndex = -1;
    around.focus({ preventScroll: true });
  };
  // Others may know better where it goes, and say so at once.
  const later = () => {
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(look);
  };
  const observer = new MutationObserver(later);
  observer.observe(document.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ["disabled"],
  });
  document.addEventListener("focusin", remember);
  return () => {
    observer.disconnect();
    cancelAnimationFrame(frame);
    document.removeEventListener("focusin", remember);
  };
}

/** What a place begins with, for one who comes to it by keyboard: what it says itself, its editor, its
 *  table. */
const first = ["#place [data-first]", "#place .cm-content", "#place [role=gridcell][tabindex='0']"];

const begins = () =>
  first.reduce<HTMLElement | null>((found, one) => found ?? document.querySelector(one), null);

/** How long a place may be in coming, and how long the last one may stay, in ms. */
const patience = 3000;
const leaving = 1200;

/** Moves the focus to where one works in the place that is being opened. */
export function focusPlace() {
  const old = begins();
  const since = performance.now();
  const look = () => {
    const now = begins();
    const waited = performance.now() - since;
    if (now && (now !== old || waited > leaving)) now.focus();
    else if (waited < patience) requestAnimationFrame(look);
    else document.querySelector<HTMLElement>("#place")?.focus();
  };
  requestAnimationFrame(look);
}
