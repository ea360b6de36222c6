import type { Middleware } from "openapi-fetch";

/** A request that the server has not answered yet. */
export interface Going {
  words: string;
  since: number; // milliseconds, as Date.now has them
  /** Gives it up; absent for what is saved, which is done whole or not at all. */
  stop?: () => void;
  progress?: Progress;
}

/** How far something is: what is being done, and how much of it, out of how much. */
export interface Progress {
  what: string;
  done: number;
  total: number;
}

/** What a request is about, by the end of its path; nothing is said of those that tell their
 *  own progress, as files on their way do. */
const asks: Record<string, string> = {
  operations: "Working out what it changes",
  proposals: "Working out what it changes",
  impact: "Working out what it changes",
  words: "Searching every page",
  placements: "Looking where it stands",
  pieces: "Looking for what repeats",
  repeats: "Comparing all pages",
  values: "Reading every value",
};
const writes: Record<string, string> = {
  "change-sets": "Saving",
  "keyed-changes": "Saving",
  releases: "Publishing",
  restore: "Bringing the release back",
  undo: "Undoing",
  redo: "Redoing",
  writing: "Writing to the folder",
  folder: "Reading the folder",
};

/** What tells, in events, how far it is. */
const publishes = new Set([writes.releases, writes.writing]);

/** Said of a request that somebody has given up. */
export class StoppedError extends Error {
  constructor() {
    super("Stopped. Nothing was changed.");
  }
}

const going = new Map<string, Going>();
let listed: Going[] = [];
const listeners = new Set<() => void>();

function told() {
  listed = [...going.values()];
  for (const l of listeners) l();
}

function done(id: string) {
  if (going.delete(id)) told();
}

export const goingOn = {
  subscribe: (heard: () => void) => {
    listeners.add(heard);
    return () => void listeners.delete(heard);
  },
  list: () => listed,
  /** Takes in how far the server says it is with what is published. */
  progress: (progress: Progress) => {
    for (const [id, g] of going) if (publishes.has(g.words)) going.set(id, { ...g, progress });
    told();
  },
  /** Keeps the list, and lets a request be given up. */
  middleware: {
    onRequest({ id, request, schemaPath }) {
      const what = schemaPath.split("/").findLast((part) => !part.startsWith("{")) ?? "";
      const written = request.method === "GET" ? undefined : writes[what];
      const since = Date.now();
      if (written) going.set(id, { words: written, since });
      else {
        const stopped = new AbortController();
        const words = asks[what] ?? (request.method === "GET" ? "Reading" : "Asking the server");
        going.set(id, { words, since, stop: () => stopped.abort(new StoppedError()) });
        request = new Request(request, {
          signal: AbortSignal.any([request.signal, stopped.signal]),
        });
      }
      told();
      return request;
    },
    onResponse({ id }) {
      done(id);
    },
    onError({ id }) {
      done(id);
    },
  } satisfies Middleware,
};
