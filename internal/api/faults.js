// Tells the tool where a behaviour fails in a preview. Runs in its sandbox.
(() => {
  /** What each behaviour that the page loads belongs to, by the beginning of its file's name. */
  const behaviours = JSON.parse(document.getElementById("shelf-behaviours").textContent);
  const first = { error: undefined, address: "" };
  let told = 0;

  const fault = (error, file, line, column, message) => {
    const of = Object.keys(behaviours).find((hash) => file.includes(`/_shelf/${hash}.js`));
    if (!of || ++told > 20) return;
    const address = error !== undefined && error === first.error ? first.address : "";
    const m = {
      shelf: "fault",
      block: behaviours[of],
      line,
      column,
      message: message.replace(/^Uncaught (Error: )?/, "").slice(0, 500),
      address,
    };
    parent.postMessage(m, "*");
  };

  document.addEventListener("behaviourfault", (e) => {
    const at = e.target.closest && e.target.closest("[data-shelf-at]");
    first.error = e.detail && e.detail.error;
    first.address = at ? at.getAttribute("data-shelf-at").split(" ").pop() : "";
  });

  /** Where an error came about, as its stack has it: the first place in a behaviour. */
  const placed = (error) => /(\S*\/_shelf\/\S+?):(\d+):(\d+)/.exec((error && error.stack) || "");

  addEventListener("error", ({ error, message, filename, lineno, colno }) => {
    const at = placed(error);
    if (at) fault(error, at[1], Number(at[2]), Number(at[3]), message);
    else fault(error, filename || "", lineno, colno, message);
  });
  addEventListener("unhandledrejection", ({ reason }) => {
    const at = placed(reason);
    if (at) fault(reason, at[1], Number(at[2]), Number(at[3]), String(reason));
  });
})();
