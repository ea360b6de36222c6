const own = document.querySelector("script[data-shelf-page]");
const page = Object.freeze({
  url: own?.dataset.shelfPage ?? location.pathname,
  title: document.title,
  root: new URL("../", import.meta.url).href,
});
const behaviours = new Map();
const running = new Map();

function fault(root, run, error) {
  root.dispatchEvent(new CustomEvent("behaviourfault", { bubbles: true, detail: { error, run } }));
  reportError(error);
}

function given(root, run) {
  try {
    return JSON.parse(root.getAttribute(`data-shelf-run-${run}`)) ?? {};
  } catch {
    return {};
  }
}

function instance(root, run) {
  const { values = {}, when, media } = given(root, run);
  const query = media && matchMedia(media);
  let seen = when !== "visible";
  let gone = false;
  let turn = 0;
  let started = false;
  let clean;
  const end = (how) => {
    try {
      how?.();
    } catch (error) {
      fault(root, run, error);
    }
  };
  const start = async () => {
    started = true;
    const mine = ++turn;
    try {
      const made = behaviours.get(run)(root, { values, page });
      const how = typeof made?.then === "function" ? await made : made;
      if (typeof how !== "function") return;
      if (mine === turn && started) clean = how;
      else end(how);
    } catch (error) {
      fault(root, run, error);
    }
  };
  const stop = () => {
    started = false;
    const how = clean;
    clean = undefined;
    end(how);
  };
  const look = () => {
    const wanted = !gone && seen && (!query || query.matches);
    if (wanted && !started) start();
    if (!wanted && started) stop();
  };
  let eye;
  if (!seen) {
    eye = new IntersectionObserver((list) => {
      if (!list.some((e) => e.isIntersecting)) return;
      eye.disconnect();
      seen = true;
      look();
    });
    eye.observe(root);
  }
  query?.addEventListener("change", look);
  look();
  return () => {
    gone = true;
    eye?.disconnect();
    query?.removeEventListener("change", look);
    look();
  };
}

function begin(root, run) {
  const known = running.get(root) ?? new Map();
  running.set(root, known);
  if (!known.has(run)) known.set(run, instance(root, run));
}

function within(node) {
  for (const run of behaviours.keys()) {
    const mark = `[data-shelf-run-${run}]`;
    if (node.matches?.(mark)) begin(node, run);
    node.querySelectorAll?.(mark).forEach((root) => begin(root, run));
  }
}

new MutationObserver((list) => {
  for (const [root, ends] of running) {
    if (root.isConnected) continue;
    running.delete(root);
    ends.forEach((end) => end());
  }
  for (const change of list)
    for (const node of change.addedNodes) if (node.isConnected) within(node);
}).observe(document, { childList: true, subtree: true });

for (const script of document.querySelectorAll("script[data-shelf-run]")) {
  const run = script.dataset.shelfRun;
  try {
    const behaviour = (await import(script.src)).default;
    if (typeof behaviour !== "function") continue;
    behaviours.set(run, behaviour);
    for (const root of document.querySelectorAll(`[data-shelf-run-${run}]`)) begin(root, run);
  } catch {
    // the browser has told of a module that cannot be read
  }
}
