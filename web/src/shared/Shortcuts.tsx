const keys: [string, string][] = [
  ["Ctrl K", "find anything"],
  ["Ctrl Shift F", "find and replace in all of the site"],
  ["Ctrl S", "save to the draft"],
  ["Ctrl Z", "undo the last saved edit, outside a text"],
  ["Ctrl Shift Z", "redo it"],
  ["W", "go to the wall; arrow keys move over it"],
  ["Shift W", "the wall as a line, in courses, tall"],
  ["+ -", "on the wall: only the section of the brick, and back"],
  ["Enter", "look at the page under the cursor of the wall"],
  ["[ ]", "previous and next page in question"],
  ["D L R U", "in a row of placements: detach, link again, replace, bring up"],
  ["Esc", "close what is open"],
  ["F1", "what this place is for, with its keys"],
  ["?", "this sheet"],
];

/** The sheet of keyboard shortcuts. */
export function Shortcuts({ close }: { close: () => void }) {
  return (
    <div className="sheet" onMouseDown={(e) => e.target === e.currentTarget && close()}>
      <div
        role="dialog"
        aria-modal="true"
        aria-label="Keyboard"
        tabIndex={-1}
        ref={(el) => el?.focus()}
        onKeyDown={(e) => e.key === "Escape" && close()}
      >
        <h2>Keyboard</h2>
        <dl>
          {keys.map(([k, what]) => (
            <div key={k} style={{ display: "contents" }}>
              <dt>
                {k.split(" ").map((x) => (
                  <span key={x}>
                    <kbd>{x}</kbd>{" "}
                  </span>
                ))}
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </div>
    </div>
  );
}
