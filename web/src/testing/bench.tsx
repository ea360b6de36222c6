import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, configure, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, vi } from "vitest";
import { BuffersProvider } from "../shared/buffers";

/** How long something may take that happens at once on a quick machine, in ms. */
const patience = 15_000;
configure({ asyncUtilTimeout: patience });

/** An answer that a test gives when it wants to. */
interface Waiting {
  request: string;
  body: unknown;
  by: string | null; // the client that asks
  answer: (data: unknown, status?: number, headers?: Record<string, string>) => Promise<void>;
}

/** The server as a test sees it: what has been asked and is not answered yet. */
export class Server {
  waiting: Waiting[] = [];

  /** Takes the oldest request of this kind that has no answer yet, as POST /operations;
   *  with words, the oldest whose body holds them. */
  async next(request: string, words = ""): Promise<Waiting> {
    const found = await vi.waitFor(
      () => {
        const w = this.waiting.find(
          (x) => x.request === request && (words === "" || JSON.stringify(x.body).includes(words)),
        );
        if (!w)
          throw new Error(
            `${request} has not been asked; waiting: ${this.waiting.map((x) => x.request).join(", ") || "nothing"}`,
          );
        return w;
      },
      { timeout: patience },
    );
    this.waiting = this.waiting.filter((x) => x !== found);
    return found;
  }

  /** Counts the requests of this kind without an answer. */
  count(request: string): number {
    return this.waiting.filter((x) => x.request === request).length;
  }

  fetch = async (input: RequestInfo | URL, init?: RequestInit): Promise<Response> => {
    const asked = new Request(input, init);
    const url = new URL(asked.url);
    const text = await asked.text();
    return new Promise((go) => {
      this.waiting.push({
        request: `${asked.method} ${url.pathname.replace("/api/v1/sites/small", "")}`,
        body: text ? JSON.parse(text) : undefined,
        by: asked.headers.get("X-Brick-Shelf"),
        answer: async (data, status = 200, headers = {}) => {
          await act(async () => {
            go(
              new Response(typeof data === "string" ? data : JSON.stringify(data), {
                status,
                headers: { "Content-Type": "application/json", ...headers },
              }),
            );
            await new Promise((later) => setTimeout(later, 0));
          });
        },
      });
    });
  };
}

// Node's requests have whole addresses, and know only signals of their own.
const Whole = globalThis.Request;
vi.stubGlobal(
  "Request",
  class extends Whole {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === "string" ? new URL(input, "http://tool.test") : input, {
        ...init,
        signal: null,
      });
    }
  },
);

// What asks the server takes hold of this when it is loaded, so this module comes first.
let current = new Server();
vi.stubGlobal("fetch", (input: RequestInfo | URL, init?: RequestInit) =>
  current.fetch(input, init),
);

/** A server that answers nothing of itself. */
export function server(): Server {
  current = new Server();
  return current;
}

/** Gives every element a size, as a browser does: what draws only what is in view, or
 *  fits itself into its place, has to know one. */
export function sized() {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {
        /* the size stays as it is */
      }
      unobserve() {
        /* nothing was observed */
      }
      disconnect() {
        /* nothing was observed */
      }
    },
  );
  for (const [name, size] of Object.entries({
    offsetWidth: 800,
    offsetHeight: 600,
    clientWidth: 800,
    clientHeight: 600,
  })) {
    vi.spyOn(HTMLElement.prototype, name as "offsetWidth", "get").mockReturnValue(size);
  }
}

/** The streams of events that are listened to. */
export class Events extends EventTarget {
  static open: Events[] = [];
  constructor(readonly address: string) {
    super();
    Events.open.push(this);
  }
  close() {
    Events.open = Events.open.filter((e) => e !== this);
  }
  /** Sends an event to whoever listens. */
  async send(type: string, data: object = {}) {
    await act(async () => {
      this.dispatchEvent(new MessageEvent(type, { data: JSON.stringify(data) }));
      await new Promise((later) => setTimeout(later, 0));
    });
  }
}
vi.stubGlobal("EventSource", Events);

/** Draws a part of the interface as it stands in the site called small; again draws
 *  another one in its place. */
export function draw(part: ReactNode, at = "/small") {
  const client = new QueryClient({
    defaultOptions: { queries: { retry: false, staleTime: Infinity } },
  });
  const whole = (part: ReactNode) => (
    <QueryClientProvider client={client}>
      <BuffersProvider>
        <MemoryRouter initialEntries={[at]}>
          <Routes>
            <Route path="/:site/*" element={part} />
          </Routes>
        </MemoryRouter>
      </BuffersProvider>
    </QueryClientProvider>
  );
  const drawn = render(whole(part));
  return { ...drawn, again: (part: ReactNode) => drawn.rerender(whole(part)) };
}

afterEach(() => {
  cleanup();
  sessionStorage.clear();
});
