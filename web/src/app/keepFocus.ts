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

/** How long the address of a place may be in coming, what one works in once that is drawn, and what the
 *  last place had may stay in it, in ms. */
const onTheWay = 30_000;
const patience = 3000;
const leaving = 1200;

/** Whether what is drawn is what stands at an address: the same path, and all that is asked for there. */
function drawn(to: string): boolean {
  const at = document.querySelector<HTMLElement>("[data-at]")?.dataset.at;
  if (at === undefined) return false;
  const is = new URL(at, window.location.origin);
  const wants = new URL(to, window.location.origin);
  return (
    is.pathname === wants.pathname &&
    [...wants.searchParams].every(([key, value]) => is.searchParams.get(key) === value)
  );
}

/** Moves the focus to where one works in the place that is being opened at an address, however long
 *  that takes to come: until then the last place is still drawn. Whoever points at anything meanwhile
 *  has gone on, and is left alone. */
export function focusPlace(to: string) {
  const old = begins();
  const began = performance.now();
  let came = 0;
  let ended = false;
  const end = () => {
    ended = true;
    removeEventListener("pointerdown", end, true);
  };
  addEventListener("pointerdown", end, true);
  const look = () => {
    if (ended) return;
    const time = performance.now();
    if (came === 0 && drawn(to)) came = time;
    const now = came === 0 ? null : begins();
    if (now && (now !== old || time - came > leaving)) now.focus();
    else if (came === 0 ? time - began < onTheWay : time - came < patience) {
      requestAnimationFrame(look);
      return;
    } else if (came !== 0) document.querySelector<HTMLElement>("#place")?.focus();
    end();
  };
  requestAnimationFrame(look);
}
