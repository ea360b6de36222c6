import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useMemo, useState } from "react";
import type { Unit } from "../api/parts";
import { kinds } from "./words";

interface Props {
  units: Unit[] | undefined;
  chosen: string[];
  choose: (ids: string[]) => void;
}

/** How many of a kind are listed; words narrow them. */
const most = 200;

/** What a site holds, to be chosen from. */
export function Choosing({ units, chosen, choose }: Props) {
  const [words, setWords] = useState("");
  const groups = useMemo(() => {
    const all = words.toLowerCase().split(/\s+/).filter(Boolean);
    const found = (units ?? []).filter((u) =>
      all.every((w) => `${u.title} ${u.name} ${u.id}`.toLowerCase().includes(w)),
    );
    return kinds
      .map(([kind, title]) => [title, found.filter((u) => u.kind === kind)] as const)
      .filter(([, list]) => list.length > 0);
  }, [units, words]);
  if (!units)
    return (
      <p className="empty" aria-busy="true">
        Reading what it holds…
      </p>
    );
  return (
    <>
      <div className="shelf-filter files-filter">
        <input
          aria-label="Filter what can be chosen"
          placeholder="Filter what can be chosen"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </div>
      <div className="scroll part-units">
        {groups.map(([title, list]) => (
          <fieldset key={title}>
            <legend>
              {title} <span className="soft">{list.length}</span>
            </legend>
            {list.slice(0, most).map((u) => (
              <FormControlLabel
                key={u.id}
                control={
                  <Checkbox
                    size="small"
                    checked={chosen.includes(u.id)}
                    onChange={(e) =>
                      choose(
                        e.target.checked ? [...chosen, u.id] : chosen.filter((id) => id !== u.id),
                      )
                    }
                  />
                }
                label={
                  <>
                    <b>{u.title}</b> <code>{u.name}</code>
                    {u.library && <span className="soft"> from {u.library}</span>}
                  </>
                }
              />
            ))}
            {list.length > most && (
              <p className="soft">and {list.length - most} more; filter them</p>
            )}
          </fieldset>
        ))}
        {groups.length === 0 && (
          <p className="empty">
            {units.length === 0 ? "This site holds nothing yet." : "Nothing is called that."}
          </p>
        )}
      </div>
    </>
  );
}
