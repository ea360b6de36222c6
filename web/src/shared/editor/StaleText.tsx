import type { useText } from "../useEdit";
import { Conflict } from "./Conflict";

/** What is shown where a document was saved elsewhere while it was edited here. */
export function StaleText({ path, text }: { path: string; text: ReturnType<typeof useText> }) {
  return (
    <Conflict
      path={path}
      theirs={text.saved}
      mine={text.text}
      keep={() => text.rebase(text.text)}
      drop={text.drop}
    />
  );
}
