import createClient from "openapi-fetch";
import { goingOn } from "./goingOn";
import type { components, paths } from "./contract.gen";

export type Schemas = components["schemas"];
export type Overview = Schemas["Overview"];
export type Site = Schemas["Site"];
export type Block = Schemas["Block"];
export type BlockSummary = Schemas["BlockSummary"];
export type Placement = Schemas["Placement"];
export type Proposal = Schemas["Proposal"];
export type Impact = Schemas["Impact"];
export type Entry = Schemas["Entry"];
export type FoundCall = Schemas["FoundCall"];
export { fieldTypeValues as fieldTypes } from "./contract.gen";
export type FieldType = Schemas["FieldType"];
export type Operation = Schemas["Operation"];
export type Operated = Schemas["Operated"];
/** An operation of some kinds, as OperationOf<"rename-block" | "delete-block">. */
export type OperationOf<K extends Operation["operation"]> = Extract<Operation, { operation: K }>;

/** What became of each page, where an operation says so. */
export function rolledOf(o: Operated | null) {
  return o?.answer === "rolled" ? o.rolled : undefined;
}

/** The values that do not count any more by an operation. */
export function withoutOf(o: Operated | null) {
  return o?.answer === "without" ? o.without : [];
}
export type ChangeSet = Schemas["ChangeSet"];
export type Comparison = Schemas["Comparison"];
export type Finding = Schemas["Finding"];
export type Review = Schemas["Review"];
export type Reference = Schemas["Reference"];
export type ScriptTrial = Schemas["ScriptTrial"];
export type ScriptResult = Schemas["ScriptResult"];
export type Row = Schemas["Row"];
export type Explanation = Schemas["Explanation"];
export type RegionStory = Schemas["RegionStory"];
export type Candidate = Schemas["Candidate"];
export type PagePart = Schemas["PagePart"];
export type Precedence = Schemas["Precedence"];
export type FieldPrecedence = Schemas["FieldPrecedence"];
export type Source = Schemas["Source"];
export type Winners = Schemas["Winners"];
export type WinningGroup = Schemas["WinningGroup"];
export type RuleSummary = Schemas["RuleSummary"];
export type RuleReading = Schemas["RuleReading"];
export type Layout = Schemas["Layout"];
export type MenuSummary = Schemas["MenuSummary"];
export type MenuItem = Schemas["MenuItem"];
export type PageEdit = Omit<Schemas["PageEdit"], "path" | "text">;
export type Rolled = Schemas["Rolled"];
export type Page = Schemas["Page"];
export type Field = Schemas["Field"];
export type Problem = Schemas["Problem"];
export type Saved = Schemas["Saved"];
export type Effect = Schemas["Effect"];

/** What tells this tab from others: events of what it has done carry it. */
export const client = Array.from(crypto.getRandomValues(new Uint32Array(2)), (n) =>
  n.toString(36),
).join("-");

const headers = { "X-Brick-Shelf": client };

/** Who makes the edits of this browser, as they sign them; "" for nobody's name. */
export const signature = {
  get: () => localStorage.getItem("signature") ?? "",
  set: (name: string) => localStorage.setItem("signature", name),
};

export const api = createClient<paths>({ baseUrl: "/api/v1", headers });
api.use({
  onRequest({ request }) {
    const name = signature.get();
    if (name && request.method !== "GET")
      request.headers.set("X-Brick-Shelf-Author", encodeURIComponent(name));
    return request;
  },
});

api.use(goingOn.middleware);

/** What the server said was wrong. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** Takes the data out of an answer, or throws what went wrong. */
export function unwrap<T>(answer: { data?: T; error?: unknown; response: Response }): T {
  if (answer.data !== undefined) return answer.data;
  const problem = answer.error as Problem | undefined;
  throw new ApiError(
    problem?.detail
      ? problem
      : {
          type: "about:blank",
          title: "No answer",
          status: answer.response.status,
          detail: "The server gave no answer that can be read. Is it still running?",
        },
  );
}

/** Of so many pages is told in one answer: what is read at once keeps no key waiting. */
const window = 500;

/** Asks for what stands on any number of pages, some pages at a time, until the answer names no next
 *  ones; with a moment for the browser after each. */
export async function inWindows<T>(
  ask: (query: { after: number; pages: number }) => Promise<{
    data?: T;
    error?: unknown;
    response: Response;
  }>,
): Promise<[T, ...T[]]> {
  const first = await ask({ after: 0, pages: window });
  const all: [T, ...T[]] = [unwrap(first)];
  let last = first;
  while (last.response.headers.get("Link")?.includes('rel="next"')) {
    await new Promise((done) => setTimeout(done));
    last = await ask({ after: all.length * window, pages: window });
    all.push(unwrap(last));
  }
  return all;
}

export interface Document {
  text: string;
  hash: string;
}

/** Reads a document; a document that is not there has no hash and no text. */
export async function readDocument(
  site: string,
  path: string,
  signal?: AbortSignal,
): Promise<Document> {
  const answer = await fetch(
    `/api/v1/sites/${encodeURIComponent(site)}/documents?readable=true&path=${encodeURIComponent(path)}`,
    { headers, ...(signal && { signal }) },
  );
  if (answer.status === 404) return { text: "", hash: "" };
  if (!answer.ok) throw new ApiError((await answer.json()) as Problem);
  return {
    text: await answer.text(),
    hash: (answer.headers.get("ETag") ?? "").replaceAll('"', ""),
  };
}
