import Button from "@mui/material/Button";
import Close from "@mui/icons-material/Close";
import IconButton from "@mui/material/IconButton";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Entry, type Field, type FoundCall } from "../../api/client";
import { useReference, useSite } from "../../api/queries";
import { FieldInput } from "../fields/FieldInput";
import { useChoices } from "../fields/useChoices";
import { nameOf } from "../nameOf";
import { argumentsIn, madeUp } from "./sample";
import { begin, end } from "../underWay";

const bytes = (text: string) => new TextEncoder().encode(text).length;

/** A form for the call in which the cursor stands. Each edit changes just the
 *  characters of that argument. */
export function CallPanel({
  text,
  at,
  change,
  close,
  lit,
}: {
  text: string;
  at: number;
  change: (t: string) => void;
  close: () => void;
  lit?: (address: string) => void;
}) {
  const site = useSite();
  const { data } = useReference();
  const [spot, setSpot] = useState({ text: "", at: -1 });
  useEffect(() => {
    const timer = setTimeout(() => setSpot({ text, at }), 60);
    return () => clearTimeout(timer);
  }, [text, at]);
  const { data: call, error } = useQuery({
    queryKey: ["call", site, nameOf(spot)],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/calls", {
          signal,
          params: { path: { site } },
          body: { text: spot.text, at: bytes(spot.text.slice(0, spot.at)) },
        }),
      ),
    enabled: spot.at >= 0,
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  const found = error ? undefined : call;
  useEffect(() => {
    if (found) lit?.(found.address);
  }, [found, lit]);
  const entry = data?.entries.find((e) => e.name === found?.name);
  if (!found?.name || !entry) return null;
  return (
    <Form
      key={`${found.name} ${found.from}`}
      found={found}
      entry={entry}
      text={text}
      change={change}
      close={close}
    />
  );
}

function Form({
  found,
  entry,
  text,
  change,
  close,
}: {
  found: FoundCall;
  entry: Entry;
  text: string;
  change: (t: string) => void;
  close: () => void;
}) {
  const site = useSite();
  const choices = useChoices();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const sample = argumentsIn(entry.sample);
  const latest = useRef(0);
  const made = useRef(text);
  useEffect(() => {
    if (text === made.current) return;
    made.current = text; // edited elsewhere
    setTyped({});
  }, [text]);
  const put = (f: Field, value: string | undefined) => {
    const turn = ++latest.current;
    begin();
    setTyped((t) => {
      const others = Object.entries(t).filter(([k]) => k !== f.name);
      return Object.fromEntries(value === undefined ? others : [...others, [f.name, value]]);
    });
    api
      .POST("/sites/{site}/arguments", {
        params: { path: { site } },
        body: { text, at: found.from + 3, field: f.name, ...(value !== undefined && { value }) },
      })
      .then((a) => {
        if (turn !== latest.current) return;
        made.current = unwrap(a).text;
        change(made.current);
        setWrong((w) => ({ ...w, [f.name]: "" }));
      })
      .catch(
        (e: unknown) =>
          turn === latest.current && setWrong((w) => ({ ...w, [f.name]: (e as Error).message })),
      )
      .finally(end);
  };
  return (
    <section className="call-panel" aria-label={`Call of ${entry.title}`}>
      <header>
        <b>{entry.title}</b> <span className="soft">{entry.about}</span>
        <IconButton size="small" aria-label="Close the form of the call" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </header>
      <div className="call-fields">
        {entry.fields.map((f) => {
          const given = found.arguments.find((a) => a.name === f.name);
          const otherwise = f.default_text
            ? `otherwise ${f.from ? `${f.from}, else ` : ""}${f.default_text}`
            : f.required
              ? "required"
              : "";
          if (given?.derived)
            return (
              <p key={f.name} className="soft">
                {f.label}: worked out, <code>{given.text}</code>
              </p>
            );
          return (
            <div key={f.name} className="call-field">
              <FieldInput
                field={f}
                value={typed[f.name] ?? given?.text ?? ""}
                change={(v) => put(f, v)}
                choices={choices}
                wrong={wrong[f.name] ?? ""}
                about={given ? "set here" : otherwise}
                required={f.required && !f.default_text}
              />
              {f.required && !given?.text && f.type !== "list" ? (
                <Button
                  size="small"
                  onClick={() => put(f, sample[f.name] || madeUp(f))}
                  aria-label={`Sample for ${f.label}: ${sample[f.name] || madeUp(f)}`}
                >
                  Sample: {sample[f.name] || madeUp(f)}
                </Button>
              ) : (
                given && (
                  <Button
                    size="small"
                    onClick={() => put(f, undefined)}
                    aria-label={`Reset ${f.label}`}
                  >
                    Reset
                  </Button>
                )
              )}
            </div>
          );
        })}
        {entry.fields.length === 0 && <p className="soft">This call has no parameters.</p>}
      </div>
    </section>
  );
}
