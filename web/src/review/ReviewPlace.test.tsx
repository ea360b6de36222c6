// @vitest-environment jsdom
import { draw, server, sized, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { useLocation } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { useWall, WallProvider } from "../shared/wall/subject";
import { ReviewPlace } from "./ReviewPlace";

const tell = vi.hoisted(() => vi.fn());
vi.mock("../shared/notices", () => ({ tell }));

const overview = {
  name: "small",
  title: "Small",
  home: "/",
  version: 3,
  checked: true,
  pages: [],
  drafts: [],
  titles: {},
  blocks: [],
};
const edit = (id: number, title: string, more = {}) => ({
  id,
  title,
  kind: "edit",
  at: "2026-06-01T10:00:00Z",
  paths: ["blocks/footer.html", "history/abc.html"],
  documents: 2,
  undone: false,
  waits: true,
  ...more,
});
const page = (path: string, effect: string) => ({ path, title: `Page ${path}`, effect });
const review = (more = {}) => ({
  records: [edit(2, "Edit Footer"), edit(1, "Edit Header", { undone: true, waits: false })],
  edits: 1,
  pages: [page("/a/", "changes"), page("/new/", "added")],
  impact: {
    total: 5,
    counts: {},
    effects: "c-h--",
    added: ["/new/"],
    breaks: [],
    sentence: "Changes 1 page. 1 page is added. No new errors.",
  },
  findings: { checked: true, list: [] },
  releases: [{ number: 4, title: "Spring", at: "2026-05-01T10:00:00Z" }],
  ahead: [],
  ...more,
});

function Beside() {
  const { subject } = useWall();
  const at = useLocation();
  return (
    <p role="note">
      {subject?.about} {subject?.states.join(" ")} {at.search}
    </p>
  );
}

describe("the review", () => {
  let asked: Server;
  beforeEach(() => {
    sized();
    tell.mockReset();
    asked = server();
    draw(
      <WallProvider>
        <ReviewPlace />
        <Beside />
      </WallProvider>,
    );
  });
  const see = async (r: object) => {
    await (await asked.next("GET /review")).answer(r);
    await (await asked.next("GET ")).answer(overview);
    await screen.findByRole("heading", { name: "Review" });
  };
  const publish = () => screen.getByRole<HTMLButtonElement>("button", { name: "Publish" });

  it("tells what differs from the release, here and on the wall, and leads to each page", async () => {
    await see(review());
    expect(screen.getByText("the draft against release 4")).toBeTruthy();
    expect(screen.getByText("1 edit."), "what is undone is none").toBeTruthy();
    expect(screen.getByText("Changes 1 page.")).toBeTruthy();
    expect(screen.getByRole("heading", { name: "2 pages differ" })).toBeTruthy();
    expect(screen.getByRole("note").textContent).toContain(
      "What differs from the live site? change none held none none",
    );
    fireEvent.click(screen.getByText("Page /new/"));
    expect(screen.getByRole("note").textContent).toContain("?peek=%2Fnew%2F");
    const edits = within(screen.getByRole("region", { name: "Edits" }));
    expect(edits.getAllByRole("listitem").map((l) => l.style.textDecoration)).toEqual([
      "",
      "line-through",
    ]);
    expect(
      edits.getAllByText("blocks/footer.html"),
      "what is kept for copies is nobody's edit",
    ).toHaveLength(2);
  });

  it("publishes, and names the release", async () => {
    await see(review());
    fireEvent.click(publish());
    const release = await asked.next("POST /releases");
    expect(release.body).toEqual({ title: "Edit Footer" });
    expect(publish().disabled, "it is published once").toBe(true);
    await release.answer({ number: 5, title: "Edit Footer", at: "2026-06-01T10:00:00Z" });
    await (
      await asked.next("GET /review")
    ).answer(
      review({
        records: [],
        edits: 0,
        pages: [],
        releases: [{ number: 5, title: "Edit Footer", at: "2026-06-01T10:00:00Z" }],
      }),
    );
    await (await asked.next("GET ")).answer(overview);
    await waitFor(() => expect(tell).toHaveBeenCalledWith("Published as release 5"));
    expect(screen.getByText("Nothing waits to be published.")).toBeTruthy();
    expect(screen.getByText("The draft is what visitors see.")).toBeTruthy();
    expect(publish().disabled).toBe(true);
  });

  it("asks before what newly breaks is published, naming each", async () => {
    await see(
      review({
        impact: {
          total: 5,
          counts: {},
          effects: "C",
          added: [],
          sentence: "Changes 1 page. 2 things break.",
          breaks: [
            {
              page: "/a/",
              code: "unresolved-call",
              address: "main/x~1",
              message: "there is no block x",
            },
            {
              page: "",
              code: "wrong-type",
              address: "rules/r.yaml:4:3",
              message: "many is no number",
            },
          ],
        },
      }),
    );
    fireEvent.click(screen.getByRole("button", { name: "Publish …" }));
    expect(asked.count("POST /releases")).toBe(0);
    const asks = within(screen.getByRole("alertdialog"));
    expect(asks.getAllByRole("listitem").map((l) => l.textContent)).toEqual([
      "there is no block x /a/",
      "many is no number rules/r.yaml:4:3",
    ]);
    fireEvent.click(asks.getByRole("button", { name: "Not yet" }));
    expect(screen.queryByRole("alertdialog")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Publish …" }));
    fireEvent.click(screen.getByRole("button", { name: "Publish all the same" }));
    expect((await asked.next("POST /releases")).body).toEqual({ title: "Edit Footer" });
  });

  it("does not call a draft sound in which something was broken before", async () => {
    await see(
      review({
        findings: {
          checked: true,
          list: [
            {
              severity: "error",
              path: "pages/a.html",
              line: 1,
              column: 1,
              code: "missing-page",
              message: "leads nowhere",
            },
          ],
        },
      }),
    );
    expect(screen.getByText(/No new errors; 1 from before\./)).toBeTruthy();
    expect(screen.queryByText(/No new errors\./)).toBeNull();
  });

  it("lists earlier edits some at a time, as many as there are", async () => {
    await see(
      review({
        records: Array.from({ length: 100 }, (_, i) => edit(300 - i, `Edit ${300 - i}`)),
        edits: 150,
      }),
    );
    expect(screen.getByText("150 edits.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Earlier edits" }));
    await (await asked.next("GET /edits")).answer([edit(200, "Edit 200", { documents: 40 })]);
    expect(await screen.findByText("Edit 200")).toBeTruthy();
    expect(screen.getByText("blocks/footer.html and 38 more")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Earlier edits" }));
    await (await asked.next("GET /edits")).answer([]);
    await waitFor(() => expect(screen.queryByRole("button", { name: "Earlier edits" })).toBeNull());
  });

  it("says why nothing was published", async () => {
    await see(review());
    fireEvent.click(publish());
    await (
      await asked.next("POST /releases")
    ).answer({ title: "x", status: 422, detail: "blocks/a.html:3: a cycle" }, 422);
    await waitFor(() => expect(tell).toHaveBeenCalledWith("blocks/a.html:3: a cycle", "error"));
    expect(publish().disabled, "it can be tried again").toBe(false);
  });

  it("publishes a site for the first time though nobody has edited it", async () => {
    await see(review({ records: [], edits: 0, releases: [] }));
    expect(
      screen.getByText("the draft against nothing: this site has not been published"),
    ).toBeTruthy();
    expect(screen.getByText("Edits since the beginning")).toBeTruthy();
    expect(publish().disabled).toBe(false);
    fireEvent.click(publish());
    expect((await asked.next("POST /releases")).body).toEqual({ title: "Publish" });
  });

  it("lists what is broken, warnings not among it", async () => {
    const finding = (severity: string, line: number, code: string) => ({
      severity,
      path: "pages/a.html",
      line,
      column: 1,
      code,
      message: `finding ${line}`,
    });
    await see(
      review({
        findings: {
          checked: true,
          list: [
            finding("error", 3, "unresolved-call"),
            finding("warning", 4, "unused"),
            finding("error", 5, "broken-link"),
          ],
        },
      }),
    );
    const broken = within(screen.getByRole("region", { name: "What is broken" }))
      .getAllByRole("listitem")
      .map((l) => l.textContent);
    expect(broken).toEqual([
      "pages/a.html:3finding 3. It shows nothing when published.",
      "pages/a.html:5finding 5.",
    ]);
    expect(screen.getByRole("link", { name: "2 broken" })).toBeTruthy();
  });

  it("does not call unbroken what is still being checked", async () => {
    await see(review({ findings: { checked: false, list: [] } }));
    expect(screen.getByText("Checking…")).toBeTruthy();
    expect(screen.queryByText("Nothing is broken")).toBeNull();
  });

  it("tells what is published and not yet written, and tries again", async () => {
    const writing = {
      folder: "/srv/www",
      release: 4,
      problem: "sitemap.xml would be overwritten",
      aside: [],
    };
    await see(review({ writing }));
    expect(
      screen.getByText("Release 4 is published, and not yet written to /srv/www:").parentElement
        ?.textContent,
    ).toContain("sitemap.xml would be overwritten");
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    await (await asked.next("POST /writing")).answer({ ...writing, problem: "" });
    await (
      await asked.next("GET /review")
    ).answer(review({ writing: { ...writing, problem: "", aside: ["a/index.html"] } }));
    await (await asked.next("GET ")).answer(overview);
    await waitFor(() => expect(tell).toHaveBeenCalledWith("Release 4 is written to /srv/www"));
    expect(
      screen.getByText(/^a\/index.html had been edited in \/srv\/www. It was put right/),
    ).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Try again" })).toBeNull();
  });

  it("does not call written what is only published", async () => {
    await see(review());
    fireEvent.click(publish());
    await (
      await asked.next("POST /releases")
    ).answer({
      number: 5,
      title: "x",
      at: "2026-06-01T10:00:00Z",
      writing: { folder: "/srv/www", release: 5, problem: "the disk is full", aside: [] },
    });
    await (await asked.next("GET /review")).answer(review());
    await (await asked.next("GET ")).answer(overview);
    await waitFor(() =>
      expect(tell).toHaveBeenCalledWith(
        "Release 5 is published, and not yet written to /srv/www",
        "error",
      ),
    );
  });

  it("names the days on which rules begin and end", async () => {
    await see(
      review({
        ahead: [
          { day: "2026-07-01", begins: ["summer"], ends: ["spring", "easter"], menus: ["main"] },
        ],
      }),
    );
    const day = screen.getByText("2026-07-01").closest("li");
    expect(day?.textContent).toBe(
      "2026-07-01 summer begins. spring is over. easter is over. Entries of main turn.",
    );
    expect(
      within(day as HTMLElement)
        .getByRole("link", { name: "summer" })
        .getAttribute("href"),
    ).toBe("/small/rules/summer");
  });

  it("brings a release back into the draft", async () => {
    await see(review());
    fireEvent.click(screen.getByRole("button", { name: "Restore release 4 into the draft" }));
    await (
      await asked.next("POST /releases/4/restore")
    ).answer({ title: "Restore release 4", version: 9 });
    expect(asked.count("GET /review")).toBe(1);
    await (await asked.next("GET /review")).answer(review());
    await (await asked.next("GET ")).answer(overview);
    await waitFor(() =>
      expect(tell).toHaveBeenCalledWith("Restore release 4: in the draft now, not yet published"),
    );
  });

  it("says what went wrong where it cannot be told", async () => {
    await (
      await asked.next("GET /review")
    ).answer({ title: "x", status: 500, detail: "the disk is full" }, 500);
    expect((await screen.findByRole("alert")).textContent).toBe("the disk is full");
  });
});
