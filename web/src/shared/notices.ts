import type { Tone } from "./tone";

const load = () => import("./NoticeStack");

/** Loads what shows notices, so that one can be shown when the server is gone. */
export const noticesAhead = () => load().then(() => undefined);

/** Shows a notice for a moment, at the foot of the window. */
export function tell(text: string, tone?: Tone) {
  void load().then(({ show }) => show(text, tone));
}

export const tellSaved = (title: string) => tell(`Saved to the draft: ${title}`);
