import { useCallback } from "react";
import { tell, tellSaved } from "./notices";
import { useProposal, useText, type Ready } from "./useEdit";
import { useSaveKey } from "./useSaveKey";

/** One document on the bench: its text, what an edit of it would do, and saving it by
 *  button or Ctrl+S. proposal is the id of an edit that could be looked at, or "". */
export function useBench(path: string, title: string, exists = true, ready?: Ready) {
  const text = useText(path, exists);
  const edit = useProposal([path], title, ready);
  const save = useCallback(() => {
    edit.save().then(
      (s) => tellSaved(s.title),
      (e: unknown) => tell((e as Error).message, "error"),
    );
  }, [edit]);
  const impact = edit.proposal?.impact;
  const problems = edit.proposal?.problems ?? [];
  const savable = edit.dirty && edit.fresh && problems.length === 0 && !text.stale && !edit.saving;
  useSaveKey(edit.working, savable, save);
  return {
    text,
    edit,
    impact,
    problems,
    proposal: impact && problems.length === 0 ? (edit.proposal?.id ?? "") : "",
    save,
    savable,
  };
}
