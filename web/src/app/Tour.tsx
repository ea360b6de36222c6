import Button from "@mui/material/Button";
import Popper, { type PopperProps } from "@mui/material/Popper";
import { useEffect, useState } from "react";

interface Step {
  title: string;
  words: string;
  /** What it tells of: the first of these that is there. */
  at: string[];
  placement: NonNullable<PopperProps["placement"]>;
}

const steps: Step[] = [
  {
    title: "The shelf",
    words:
      "Your blocks stand here, each with a strip of where it stands. Choose one to work on it, or drag it onto a page.",
    at: [".bench > aside", ".bench > header > .MuiButton-root"],
    placement: "right-start",
  },
  {
    title: "The bench",
    words:
      "What you chose is edited here, beside a page as it looks. Nothing reaches visitors before you publish.",
    at: ["#place .subject", "#place"],
    placement: "bottom-start",
  },
  {
    title: "The wall",
    words:
      "Every page is a brick. While you type, those turn that would change; others say why they stay. Press one to see it before and after.",
    at: [".wall"],
    placement: "top-start",
  },
  {
    title: "Review",
    words:
      "What you saved waits here until you publish it. Each edit and each release can be taken back.",
    at: [".bench > header > a[href$='/review']"],
    placement: "bottom-end",
  },
];

const placeOf = (step: Step) =>
  step.at.reduce<Element | null>((found, one) => found ?? document.querySelector(one), null);

const key = "tour";

/** Whether nobody has seen the tour in this browser, or left it. */
export const untoured = () => localStorage.getItem(key) === null;

/** Four things to know, each beside what it tells of. One works on meanwhile, or leaves. */
export function Tour({ close }: { close: () => void }) {
  const [at, setAt] = useState(0);
  const [moved, setMoved] = useState(false); // by somebody, who goes on with the same key
  const step = steps[at];
  useEffect(() => {
    const found = step && placeOf(step);
    found?.classList.add("toured");
    return () => found?.classList.remove("toured");
  }, [step]);
  const leave = () => {
    localStorage.setItem(key, "left");
    close();
  };
  if (!step) return null;
  const last = at === steps.length - 1;
  const go = (by: number) => {
    setAt(at + by);
    setMoved(true);
  };
  return (
    <Popper
      open
      key={at}
      anchorEl={() => placeOf(step) ?? document.body}
      placement={step.placement}
      className="tour"
      modifiers={[
        { name: "offset", options: { offset: [0, 8] } },
        { name: "preventOverflow", options: { altAxis: true, padding: 8 } },
      ]}
    >
      <section
        aria-label="Tour"
        onKeyDown={(e) => {
          if (e.key !== "Escape") return;
          e.stopPropagation();
          leave();
        }}
      >
        <div role="status">
          <h2>
            {step.title} <span className="soft">{`${at + 1} of ${steps.length}`}</span>
          </h2>
          <p>{step.words}</p>
        </div>
        <div className="tour-acts">
          <Button color="secondary" onClick={leave}>
            Leave
          </Button>
          <span className="right">
            {at > 0 && (
              <Button color="secondary" onClick={() => go(-1)}>
                Back
              </Button>
            )}
            <Button autoFocus={moved} variant="contained" onClick={() => (last ? leave() : go(1))}>
              {last ? "Done" : "Next"}
            </Button>
          </span>
        </div>
      </section>
    </Popper>
  );
}
