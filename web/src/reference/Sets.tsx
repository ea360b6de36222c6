import Button from "@mui/material/Button";
import Switch from "@mui/material/Switch";
import { Fragment, useEffect } from "react";
import { Link } from "react-router";
import type { Operated, Overview, Reference } from "../api/client";
import { useSite } from "../api/queries";
import { Sentence } from "../shared/Say";
import { tellSaved } from "../shared/notices";
import { useOperation } from "../shared/useOperation";

/** The sets of shortcodes, which can be switched off as a whole; what that would
 *  stop is listed before it is done. */
export function Sets({
  reference,
  overview,
  shown,
}: {
  reference: Reference;
  overview: Overview;
  shown: (o: Operated | null) => void;
}) {
  const site = useSite();
  const { asked, ask, cancel, carryOut, busy } = useOperation(tellSaved);
  const operated = asked?.operated ?? null;
  useEffect(() => shown(operated), [shown, operated]);
  return (
    <div className="panel" style={{ margin: "4px 16px 12px", flex: 1 }}>
      <div className="scroll" tabIndex={0} role="region" aria-label="Sets of shortcodes">
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Set</th>
              <th scope="col">On</th>
              <th scope="col">Shortcodes in it</th>
            </tr>
          </thead>
          <tbody>
            {reference.sets.map((s) => (
              <Fragment key={s.name}>
                <tr className={asked?.key === s.name ? "open" : ""}>
                  <td>
                    <b>{s.name}</b>
                  </td>
                  <td>
                    <Switch
                      size="small"
                      checked={s.on}
                      onChange={(e) =>
                        ask(s.name, { operation: "switch-set", set: s.name, on: e.target.checked })
                      }
                      slotProps={{ input: { "aria-label": `Set ${s.name}` } }}
                    />
                  </td>
                  <td>
                    {s.shortcodes.map((n) => (
                      <Fragment key={n}>
                        <Link to={`/${site}/reference/${n}`}>
                          <code>{n}</code>
                        </Link>{" "}
                      </Fragment>
                    ))}
                  </td>
                </tr>
                {asked?.key === s.name && (
                  <tr>
                    <td colSpan={3} className="step">
                      <Question
                        on={s.on}
                        operated={asked.operated}
                        error={asked.error}
                        overview={overview}
                        busy={busy}
                        cancel={cancel}
                        go={carryOut}
                      />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** How many calls are listed; the wall and Checks have all. */
const listed = 40;

function Question({
  on,
  operated: o,
  error,
  overview,
  busy,
  cancel,
  go,
}: {
  on: boolean;
  operated: Operated | null;
  error: string;
  overview: Overview;
  busy: boolean;
  cancel: () => void;
  go: (o: Operated) => void;
}) {
  const im = o?.proposal.impact;
  const titles = new Map(overview.pages.map((p) => [p.path, p.title]));
  return (
    <div style={{ alignItems: "start" }}>
      <div role="status" style={{ flex: 1 }}>
        {error && <span className="bad-text">{error}</span>}
        {!error && !o && "Working out what that changes…"}
        {o && !im && <span className="bad-text">{o.proposal.problems[0]?.message}</span>}
        {im && <Sentence text={im.sentence} />}
        {im && im.breaks.length > 0 && (
          <>
            <p>These calls would show nothing:</p>
            <ul className="breaks">
              {im.breaks.slice(0, listed).map((b) => (
                <li key={b.page + b.address + b.code}>
                  <b>{titles.get(b.page) ?? ""}</b> <span className="soft">{b.page}</span>{" "}
                  <code>{b.address}</code>
                </li>
              ))}
              {im.breaks.length > listed && (
                <li className="soft">and {im.breaks.length - listed} more</li>
              )}
            </ul>
          </>
        )}
      </div>
      <span className="end" style={{ marginLeft: "auto", display: "flex", gap: 8 }}>
        <Button variant="outlined" color="secondary" onClick={cancel}>
          Leave it
        </Button>
        {o && im && (
          <Button variant="contained" disabled={busy} onClick={() => go(o)}>
            {on ? "Switch it off" : "Switch it on"}
          </Button>
        )}
      </span>
    </div>
  );
}
