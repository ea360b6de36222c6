import { createContext, use, useLayoutEffect, useMemo, useState, type ReactNode } from "react";
import type { Operated, Proposal } from "../../api/client";
import { effectStates, type Question, type State } from "../states";

/** What the wall shows: a state for each page, in answer to a question. against
 *  names what a page is compared with when it is opened. */
export interface WallSubject {
  question: Question;
  about: string;
  states: State[];
  against: string;
  /** Where pages are being chosen: what a brick does in place of opening its page. */
  pick?: (page: string) => void;
}

interface Wall {
  subject: WallSubject | null;
  show: (s: WallSubject | null) => void;
}

const WallContext = createContext<Wall>({ subject: null, show: () => undefined });

export function WallProvider({ children }: { children: ReactNode }) {
  const [subject, show] = useState<WallSubject | null>(null);
  const value = useMemo(() => ({ subject, show }), [subject]);
  return <WallContext value={value}>{children}</WallContext>;
}

export const useWall = () => use(WallContext);

/** Puts a subject on the wall while the calling place is open. */
export function useWallSubject(subject: WallSubject | null) {
  const { show } = useWall();
  useLayoutEffect(() => show(subject), [show, subject]); // in the frame of what brought it about
}

/** The subject of what is being edited: what the edit would change, once that is known. idle
 *  is what is asked otherwise; it should stay the same one while nothing of it changes. */
export function useWould(proposal: Proposal | null, idle: WallSubject): WallSubject {
  return useMemo(
    () =>
      proposal?.impact
        ? {
            question: "would",
            about: "What would this edit change?",
            states: effectStates(proposal.impact.effects),
            against: proposal.id,
          }
        : idle,
    [proposal, idle],
  );
}

/** What an operation would do, on the wall. */
export function subjectOf(operated: Operated | null): WallSubject | null {
  const impact = operated?.proposal.impact;
  return operated && impact
    ? {
        question: "would",
        about: "What would this change?",
        states: effectStates(impact.effects),
        against: operated.proposal.id,
      }
    : null;
}
