import Button from "@mui/material/Button";
import { Suspense, useState } from "react";
import { useOverview, useReference, useRows } from "../api/queries";
import { AsList } from "../shared/AsList";
import { CallPanel } from "../shared/calls/CallPanel";
import { bare, InsertCall } from "../shared/calls/InsertCall";
import { RowLists } from "../shared/calls/RowLists";
import { Editor } from "../shared/editor/Editor";
import type { Choices } from "../shared/fields/choices";
import { Live } from "../shared/rendering/Live";
import { useTry } from "../shared/useEdit";
import { Choice } from "../shared/Choice";

interface Props {
  label: string;
  panel: string;
  choices: Choices;
  put: (panel: string) => void;
  close: () => void;
}

const noLight = {};
const noProblems: never[] = [];

/** Where the panel of an entry is made: menus and blocks put into it, each with values of its own,
 *  its source, and how it looks by itself. */
export function PanelRoom({ label, panel, choices, put, close }: Props) {
  const overview = useOverview();
  const reference = useReference();
  const [at, setAt] = useState(-1);
  const [asList, setAsList] = useState(true);
  const rows = useRows("blocks/panel.html", panel).data ?? [];
  const counted = (rows[0]?.items.length ?? 0) > 0; // nothing but calls, which can stand in a list
  const blocks = reference.data?.entries.filter((e) => e.kind === "block" && e.on) ?? [];
  const add = (call: string) => {
    const before = panel === "" || panel.endsWith("\n") ? panel : `${panel}\n`;
    put(before + call);
    setAt(before.length + 3);
  };
  return (
    <section className="panel-room" aria-label={`Panel of ${label}`}>
      <div className="bar">
        <Button size="small" onClick={close}>
          Back to the entries
        </Button>
        <b>Panel of {label || "the new entry"}</b>
        {counted && <AsList on={asList} set={setAsList} />}
        <Choice
          className="right"
          label="Put a menu in"
          value=""
          prompt="+ Menu"
          choose={(m) => add(`@{menu name=${JSON.stringify(m)} /}`)}
          options={choices.menus.map((m) => [m.value, m.title])}
        />
        <Choice
          label="Put a block in"
          value=""
          prompt="+ Block"
          choose={(name) => {
            const chosen = blocks.find((b) => b.name === name);
            if (chosen) add(bare(chosen));
          }}
          options={blocks.map((b) => [b.name, b.title])}
        />
        <InsertCall label="Insert a call" insert={add} />
      </div>
      {counted && asList && (
        <RowLists
          path="blocks/panel.html"
          text={panel}
          rows={rows}
          change={put}
          edit={setAt}
          adds={false}
        />
      )}
      <div className="code-box" hidden={counted && asList}>
        <Suspense fallback={<p className="empty">Opening the editor…</p>}>
          <Editor
            path="pages/panel.html"
            text={panel}
            change={put}
            problems={noProblems}
            label={`Source of the panel of ${label}`}
            cursor={setAt}
          />
        </Suspense>
      </div>
      {at >= 0 && <CallPanel text={panel} at={at} change={put} close={() => setAt(-1)} />}
      {overview.data && panel.trim() !== "" && (
        <Look panel={panel} label={label} overview={overview.data} />
      )}
    </section>
  );
}

function Look({
  panel,
  label,
  overview,
}: {
  panel: string;
  label: string;
  overview: NonNullable<ReturnType<typeof useOverview>["data"]>;
}) {
  const { url, problem } = useTry(`<div class="panel shown">${panel}</div>`, overview);
  if (problem) return <p className="bad-text">{problem}</p>;
  if (!url) return null;
  return (
    <div className="insert-look">
      <Live
        url={`${url}?shelf-alone=.shown`}
        width="tablet"
        title={`The panel of ${label} by itself`}
        light={noLight}
      />
    </div>
  );
}
