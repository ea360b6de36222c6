import Radio from "@mui/material/Radio";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { lazy, memo, Suspense, useState } from "react";
import type { Arrival, ArrivingDoc, Decision } from "../api/parts";
import { conflicts, kindOf, states, takeOf, waysOf } from "./words";

const Diff = lazy(() => import("../shared/editor/Diff"));

type Choice = NonNullable<Decision["choices"]>[number];

interface Props {
  arrival: Arrival;
  decided: Decision | undefined;
  decide: (d: Decision) => void;
  here: string;
  there: string;
}

/** One thing that comes in, and what is done with it. */
export const ArrivalRow = memo(function ArrivalRow({
  arrival: a,
  decided,
  decide,
  here,
  there,
}: Props) {
  const [beside, setBeside] = useState(false);
  const ways = waysOf(a);
  const take = takeOf(a, decided);
  const shown = beside || (take === "merged" && conflicts(a) > 0);
  const choose = (t: Decision["take"]) =>
    decide({
      id: a.id,
      take: t,
      ...(t === "name" && { name: decided?.name ?? a.free }),
      ...(t === "merged" && { choices: Array<Choice>(conflicts(a)).fill("mine") }),
    });
  return (
    <li className={a.open && !decided ? "arrival open" : "arrival"}>
      <div>
        <b>{a.title}</b> <span className="soft">{kindOf(a)}</span> <code>{a.as}</code>
        <span className={`arrival-state ${a.state}`}>{states[a.state]}</span>
        {a.for.length > 0 && (
          <span className="soft">
            needed by {a.for.length === 1 ? a.for[0] : `${a.for.length} others`}
          </span>
        )}
      </div>
      {ways.length > 0 && (
        <div className="arrival-ways">
          <ToggleButtonGroup
            exclusive
            size="small"
            value={take}
            aria-label={`What is done with ${a.title}`}
            onChange={(_, t: Decision["take"] | null) => t && choose(t)}
          >
            {ways.map(([t, words]) => (
              <ToggleButton key={t} value={t}>
                {words}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          {take === "name" && (
            <TextField
              size="small"
              label={a.kind === "file" || a.kind === "page" ? "Its path" : "Its name"}
              value={decided?.name ?? a.free}
              helperText="Whatever names it is updated."
              onChange={(e) => decide({ id: a.id, take: "name", name: e.target.value.trim() })}
              slotProps={{ htmlInput: { spellCheck: false } }}
            />
          )}
          {a.docs.length > 0 && (
            <Button size="small" aria-expanded={shown} onClick={() => setBeside(!beside)}>
              {shown ? "Hide both" : "Side by side"}
            </Button>
          )}
        </div>
      )}
      {shown && (
        <Beside
          arrival={a}
          choices={take === "merged" ? decided?.choices : undefined}
          settle={(choices) => decide({ id: a.id, take: "merged", choices })}
          here={here}
          there={there}
        />
      )}
    </li>
  );
});

/** The documents that differ, mine and theirs, and the places that both have changed. */
function Beside({
  arrival: a,
  choices,
  settle,
  here,
  there,
}: {
  arrival: Arrival;
  choices: Choice[] | undefined;
  settle: (choices: Choice[]) => void;
  here: string;
  there: string;
}) {
  return (
    <div className="arrival-beside">
      {a.docs.map((d, at) => {
        // Conflicts are counted over all documents.
        const first = conflicts({ ...a, docs: a.docs.slice(0, at) });
        return (
          <section key={d.path} aria-label={`${d.path}, mine and theirs`}>
            <h2>{d.path}</h2>
            {choices &&
              d.pieces
                .filter((p) => p.conflict)
                .map((p, i) => (
                  <fieldset className="settle" key={i}>
                    <legend>
                      Place {first + i + 1}
                      {p.base !== "" && (
                        <span className="soft">
                          {" "}
                          It was <code>{p.base}</code> when it came.
                        </span>
                      )}
                    </legend>
                    {(
                      [
                        ["mine", "Mine", p.mine],
                        ["theirs", "Theirs", p.theirs],
                        ["both", "Both, mine first", p.mine + p.theirs],
                      ] as const
                    ).map(([take, words, text]) => (
                      <label key={take}>
                        <Radio
                          size="small"
                          className="row-box"
                          name={`${a.id} ${first + i}`}
                          checked={choices[first + i] === take}
                          onChange={() =>
                            settle(choices.map((c, j) => (j === first + i ? take : c)))
                          }
                        />
                        <span>{words}</span>
                        <code>{text === "" ? <i>nothing</i> : text}</code>
                      </label>
                    ))}
                  </fieldset>
                ))}
            <Both doc={d} here={here} there={there} />
          </section>
        );
      })}
    </div>
  );
}

const picture = /\.(svg|png|jpe?g|gif|webp|avif|ico)$/i;

function Both({ doc: d, here, there }: { doc: ArrivingDoc; here: string; there: string }) {
  const url = d.path.replace(/^files/, "").replace(/^assets/, "/assets");
  if (picture.test(d.path) && there)
    return (
      <div className="arrival-pictures">
        {(
          [
            ["Mine", here, d.mine_size],
            ["Theirs", there, d.theirs_size],
          ] as const
        ).map(([who, origin, size]) => (
          <figure key={who}>
            {size >= 0 && <img src={origin + url} alt={`${who}: ${d.path}`} />}
            <figcaption>
              {who}, {size < 0 ? "not there" : `${size} bytes`}
            </figcaption>
          </figure>
        ))}
      </div>
    );
  if (d.mine === "" && d.theirs === "")
    return (
      <p className="soft">
        Mine has {Math.max(d.mine_size, 0)} bytes, theirs {Math.max(d.theirs_size, 0)}.
      </p>
    );
  return (
    <Suspense fallback={<p className="soft">Comparing…</p>}>
      <Diff before={d.mine} after={d.theirs} label={`Mine and theirs, ${d.path}`} />
    </Suspense>
  );
}
