import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Field } from "../../api/client";
import { useSite } from "../../api/queries";
import { begin, end } from "../underWay";

/** The defaults of fields that a text declares, as they are typed: put makes each edit in that text,
 *  wrong is what was said of those that could not be. */
export function useDefaults(path: string, text: string, change: (t: string) => void) {
  const site = useSite();
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [typed, setTyped] = useState<Record<string, string>>({});
  const latest = useRef(0);
  const made = useRef(text);
  useEffect(() => {
    if (text === made.current) return;
    made.current = text; // edited elsewhere, or discarded
    setTyped({});
    setWrong({});
  }, [text]);
  const put = (field: Field, value: string) => {
    const turn = ++latest.current;
    begin();
    setTyped((t) => ({ ...t, [field.name]: value }));
    api
      .POST("/sites/{site}/defaults", {
        params: { path: { site } },
        body: { path, text, field: field.name, value },
      })
      .then((a) => {
        if (turn !== latest.current) return; // a later key has asked since
        made.current = unwrap(a).text;
        change(made.current);
        setWrong((w) => ({ ...w, [field.name]: "" }));
      })
      .catch(
        (e: unknown) =>
          turn === latest.current &&
          setWrong((w) => ({ ...w, [field.name]: (e as Error).message })),
      )
      .finally(end);
  };
  return { typed, wrong, put };
}
