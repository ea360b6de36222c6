import { skipToken, useQuery } from "@tanstack/react-query";
import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type SubmitEvent,
} from "react";
import { api, unwrap, type Operated, type Operation } from "../api/client";
import { useSave } from "../api/changes";
import { useSite } from "../api/queries";

/** A question: what an operation would do. No two are the same one. */
interface Asked<O> {
  key: string;
  operation: O;
  turn: number;
}

let turns = 0;

/** An operation on the site: asked about first, carried out when one has seen what
 *  it does. key tells one question from the next. */
export function useOperation<O extends Operation>(done: (title: string, operation: O) => void) {
  const site = useSite();
  const save = useSave();
  const [asked, setAsked] = useState<Asked<O> | null>(null);
  const [unsaved, setUnsaved] = useState({ turn: 0, message: "" });
  const answer = useQuery({
    queryKey: ["operation", site, asked?.turn],
    queryFn: asked
      ? async ({ signal }) =>
          unwrap(
            await api.POST("/sites/{site}/operations", {
              signal,
              params: { path: { site } },
              body: asked.operation,
            }),
          )
      : skipToken,
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const ask = useCallback(
    (key: string, operation: O) => setAsked({ key, operation, turn: ++turns }),
    [],
  );
  const cancel = useCallback(() => setAsked(null), []);
  const { mutateAsync } = save;
  const carryOut = useCallback(
    (operated: Operated) => {
      // The place that asked may be gone by then, as after a rename.
      mutateAsync(operated.change_set).then(
        () => {
          // What was asked for meanwhile waits for its own answer.
          setAsked((now) => (now === asked ? null : now));
          if (asked) done(operated.change_set.title, asked.operation);
        },
        (e: unknown) => {
          if (asked) setUnsaved({ turn: asked.turn, message: (e as Error).message });
        },
      );
    },
    [mutateAsync, done, asked],
  );
  const failed = unsaved.turn === asked?.turn ? unsaved.message : (answer.error?.message ?? "");
  return {
    asked: asked && { key: asked.key, operated: answer.data ?? null, error: failed },
    ask,
    cancel,
    carryOut,
    busy: save.isPending,
  };
}

/** useOperation asked about anew as the operation changes; null asks nothing. Enter in
 *  its form carries it out; where the answer is still to come, once it is there and
 *  breaks nothing. */
export function useLiveOperation<O extends Operation>(
  operation: O | null,
  done: (title: string, operation: O) => void,
) {
  const { asked, ask, cancel, carryOut, busy } = useOperation(done);
  const key = operation ? JSON.stringify(operation) : "";
  useEffect(() => {
    if (!key) {
      cancel();
      return;
    }
    const timer = setTimeout(() => ask(key, JSON.parse(key) as O), 120);
    return () => clearTimeout(timer);
  }, [key, ask, cancel]);
  const operated = asked?.key === key ? asked.operated : null;
  const savable = operated !== null && operated.proposal.problems.length === 0 && !busy;
  const carry = useCallback(() => {
    if (operated && savable) carryOut(operated);
  }, [operated, savable, carryOut]);
  const wanted = useRef(""); // the operation for which Enter was pressed too soon
  useEffect(() => {
    if (!operated || wanted.current !== key) return;
    wanted.current = "";
    if (operated.proposal.impact?.breaks.length === 0) carry();
  }, [operated, key, carry]);
  const form = (close?: () => void) => ({
    onSubmit: (e: SubmitEvent) => {
      e.preventDefault();
      carry();
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === "Escape") close?.();
      // The button, off as long as there is no answer, keeps the browser from submitting.
      else if (
        e.key === "Enter" &&
        !operated &&
        e.target instanceof HTMLInputElement &&
        !e.defaultPrevented
      )
        wanted.current = key;
    },
  });
  return {
    operated,
    error: asked?.key === key ? asked.error : "",
    savable,
    carryOut: carry,
    busy,
    form,
  };
}
