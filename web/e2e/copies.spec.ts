import AxeBuilder from "@axe-core/playwright";
import { differing, expect, legend, openBlock, saveElsewhere, test } from "./bench";
import { Effort } from "./effort";

test("every copy says how it stands, and stands beside what it came from", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  await page.getByRole("tab", { name: /Placements/ }).click();
  const filter = page.getByLabel("Filter", { exact: true });
  for (const [port, stands] of [
    ["harrow", "as it was when detached"],
    ["inver", "behind its block"],
    ["lunna", "changed here"],
    ["kelsay", "changed here, and behind"],
  ] as const) {
    await filter.fill(port);
    await expect(page.locator("tr[data-address]")).toHaveCount(1);
    await expect(page.locator("tr[data-address] td").nth(4)).toHaveText(`one-off copy${stands}`, {
      ignoreCase: false,
    });
  }
  await page.getByRole("button", { name: "Compare on Kelsay" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  const changed = beside.locator("section", { hasText: "Changed on this page" });
  await expect(changed.locator(".cm-changedLine")).toHaveText(/Closed while the boat unloads/);
  await expect(
    beside.locator("section", { hasText: "Changed in the block" }).locator(".cm-changedLine"),
  ).toHaveText([/Open: /, /class="hours"/]);

  await beside.getByRole("tab", { name: "Rendered" }).click();
  for (const [title, has, lacks] of [
    ["What it came from", "Open: ", "Closed while the boat unloads."],
    ["The block now", "Every day", "Closed while the boat unloads."],
    ["The copy", "Closed while the boat unloads.", "never there"],
  ] as const) {
    const body = page.frameLocator(`iframe[title="${title}"].front`).locator(".port-card");
    await expect(body).toContainText(has);
    await expect(body).not.toContainText(lacks);
  }
});

test("what goes when a copy is linked again is shown before", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/checks?tab=copies`);
  await expect(page.locator(".finding")).toHaveText([
    /Kelsay .*changed here, and behind/,
    /Inver .*behind its block/,
    /Lunna .*changed here/,
    /Harrow .*as it was when detached/,
  ]);
  for (const state of ["copy", "own", "change", "held"])
    await expect(legend(page, state)).toHaveText("1");
  await page.getByRole("button", { name: "Update all 2 from their blocks" }).click();
  await expect(page.getByText("Changes 2 pages.")).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.getByRole("button", { name: "Compare on Inver" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  await expect(beside).toContainText("It holds what it came from; the block has moved on since.");
  await expect(beside.getByText("No difference.")).toHaveCount(1);
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    const found = await new AxeBuilder({ page })
      .setLegacyMode(true)
      .options({ iframes: false })
      .analyze();
    expect(
      found.violations
        .filter((v) => v.impact === "serious" || v.impact === "critical")
        .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`),
    ).toEqual([]);
  }

  await page.locator(".finding", { hasText: "Kelsay" }).getByRole("link").last().click();
  await expect(page.getByText("one-off copy, changed here, and behind")).toBeVisible();
  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Link again" }).click();
  await expect(beside).toContainText("What is marked on the left below goes");
  await expect(
    beside.locator(".cm-changedLine", { hasText: "Closed while the boat unloads" }),
  ).toHaveCount(1);
  await page.getByRole("button", { name: "Link again", exact: true }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(page.getByText("one-off copy")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("one-off copy, changed here, and behind")).toBeVisible();
});

test("what fits fields is kept when a copy is linked again: 3 actions", async ({
  page,
  running,
}) => {
  const at = `${running.tool}/api/v1/sites/ternholm/documents?path=pages/ports/harrow.html`;
  const was = await page.request.get(at);
  const text = (await was.text()).replace("Every day, 06:30 to 21:00", "In summer, 07:00 to 20:00");
  const saved = await page.request.put(at, {
    headers: { "X-Brick-Shelf": "e2e", "If-Match": was.headers().etag ?? "" },
    data: Buffer.from(text),
  });
  expect(saved.ok()).toBe(true);
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/harrow.html`);
  await expect(page.getByText("one-off copy, changed here")).toBeVisible();

  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Link again" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  await expect(beside).toContainText(
    "What fits its fields becomes values of this placement: Hours: In summer, 07:00 to 20:00. " +
      "Nothing else changes on the page.",
  );
  await expect(page.getByRole("status").first()).toContainText("No page changes.");
  await page.getByRole("button", { name: "Link again", exact: true }).click();
  await expect(page.getByText("one-off copy")).toHaveCount(0);
  await expect(
    page.getByText(
      '@{port-card name="Harrow" to="/ports/harrow/" hours="In summer, 07:00 to 20:00" /}',
    ),
  ).toBeVisible();
});

test("what fits no field becomes one of the block, and no other page changes", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  await page.getByRole("tab", { name: /Placements/ }).click();
  await page.getByLabel("Filter", { exact: true }).fill("kelsay");
  await page.getByRole("button", { name: /^Link again on Kelsay/ }).click();
  const rest = page.getByRole("radiogroup", { name: "What fits no field" });
  await rest.getByRole("radio", { name: "stays: leave the copy" }).click();
  await expect(page.getByText("Nothing is linked: something would go with it.")).toBeVisible();
  await rest.getByRole("radio", { name: "becomes fields of port-card" }).click();
  await expect(page.getByText("port-card gets a field: part.")).toBeVisible();
  await expect(page.getByText("Closed while the boat unloads.: on")).toBeVisible();
  await expect(page.getByText("Changes 1 page.")).toBeVisible();
  await page.getByRole("button", { name: "Link again", exact: true }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  const api = `${running.tool}/api/v1/sites/ternholm/documents?path=`;
  const block = await (await page.request.get(`${api}blocks/port-card.html`)).text();
  expect(block).toMatch(
    /@\{when part\}[^@]*<p class="small">Closed while the boat unloads\.<\/p>[^@]*@\{\/when\}/,
  );
  const kelsay = await (await page.request.get(`${api}pages/ports/kelsay.html`)).text();
  expect(kelsay).toContain("part=true");
});

test("four copies that fell behind are brought up, and keep what was written into them: 4", async ({
  page,
  running,
}) => {
  await saveElsewhere(page, running, "blocks/port-card.html", "</h3>", "</h3>\n  <p>Ask us.</p>");
  await page.goto(`${running.tool}/ternholm/blocks/footer`);
  const e = new Effort(page);
  await e.click(page.getByRole("link", { name: /^Port card/ }));
  await e.click(page.getByRole("tab", { name: /Placements/ }));
  await e.click(page.getByRole("button", { name: "Update 4 copies behind the block" }));
  await expect(page.getByText("Changes 4 pages.")).toBeVisible();
  await expect(legend(page, "change")).toHaveText("4");
  await e.click(page.getByRole("button", { name: "Update 4 from the block" }));
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(4);
  await page.getByLabel("Filter", { exact: true }).fill("kelsay");
  await expect(page.locator("tr[data-address] td").nth(4)).toHaveText("one-off copychanged here");
  const kelsay = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=pages/ports/kelsay.html`,
  );
  const text = await kelsay.text();
  expect(text).toContain("Closed while the boat unloads");
  expect(text).toContain("<p>Ask us.</p>");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator("tr[data-address] td").nth(4)).toHaveText(
    "one-off copychanged here, and behind",
  );
});

test("where the page and the block say different things, one settles it", async ({
  page,
  running,
}) => {
  await saveElsewhere(
    page,
    running,
    "pages/ports/lunna.html",
    '<section class="card',
    '<section data-mine class="card',
  );
  await saveElsewhere(
    page,
    running,
    "blocks/port-card.html",
    '<section class="card',
    '<section data-all class="card',
  );
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Update from the block" }).click();
  const becomes = page.getByRole("region", { name: "What the copy becomes" });
  await expect(becomes).toContainText("1 of 1 place is to be settled");
  await expect(page.getByText("Something is to be settled first.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Update from the block" })).toHaveCount(0);
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    const found = await new AxeBuilder({ page })
      .setLegacyMode(true)
      .options({ iframes: false })
      .analyze();
    expect(
      found.violations
        .filter((v) => v.impact === "serious" || v.impact === "critical")
        .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`),
    ).toEqual([]);
  }
  await becomes.getByRole("radio", { name: /Other words/ }).check();
  await becomes.getByLabel("Other words for place 1").fill("section data-both");
  await expect(becomes).toContainText("Everything is settled.");
  await expect(becomes.locator(".cm-changedLine").last()).toContainText("data-both");

  // Somebody saves the page meanwhile: what was settled is not put over that.
  await saveElsewhere(
    page,
    running,
    "pages/ports/lunna.html",
    "<section data-mine",
    "<section data-other",
  );
  await expect(becomes).toContainText("to be settled");
  await becomes.getByRole("radio", { name: /Both/ }).check();
  await page.getByRole("button", { name: "Update from the block" }).click();
  await expect(page.getByText("4 edits waiting")).toBeVisible();
  const lunna = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=pages/ports/lunna.html`,
  );
  expect(await lunna.text()).toContain("data-other");
});

test("three placements are detached at once: 5", async ({ page, running }) => {
  await openBlock(page, running, "port-card");
  const e = new Effort(page);
  await e.click(page.getByRole("tab", { name: /Placements/ }));
  for (const title of ["Aldwick", "Brannoch", "Corrie"]) {
    const box = page.getByRole("checkbox", {
      name: `Choose ${title}, main/port-card~1`,
      exact: true,
    });
    // A row that is drawn anew while it is clicked is clicked again.
    await e.act(() =>
      expect(async () => {
        if (!(await box.isChecked())) await box.click();
        await expect(box).toBeChecked({ timeout: 2000 });
      }).toPass(),
    );
  }
  await expect(page.getByText("No byte of any page changes.")).toBeVisible();
  await expect(
    page.getByText(/3 pages keep 3 copies, and later edits of the block leave/),
  ).toBeVisible();
  await e.click(page.getByRole("button", { name: "Detach 3" }));
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(5);
  await expect(legend(page, "copy")).toHaveText("7");
  await expect(differing(page, 0)).toBeVisible();
});

test("a block is put in the place of another on one page, with what has no place said: 4", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  const e = new Effort(page);
  await e.click(page.getByRole("tab", { name: /Placements/ }));
  await e.click(page.getByRole("button", { name: "Replace on Contact" }));
  await page.getByLabel("Block to put there").click();
  await e.click(page.getByRole("option", { name: "Ticket office hours" }));
  await expect(page.getByText("2 values have no place there.")).toBeVisible();
  await expect(page.getByRole("list", { name: "What has no place" })).toContainText("Ternholm");
  await e.click(page.getByRole("button", { name: "Replace", exact: true }));
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(4);
  const contact = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=pages/contact.html`,
  );
  expect(await contact.text()).toContain("@{ticket-office-hours /}");
});

test("a call in a block is detached there, for all its pages, and linked again", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/blocks/ticket-office-hours?tab=placements`);
  await page.getByRole("button", { name: "Detach on About us" }).first().click();
  await page.getByRole("radio", { name: "In footer, for all its pages" }).check();
  await expect(page.getByText(/Every page that shows it there keeps a copy/)).toBeVisible();
  await page.getByRole("button", { name: "Detach", exact: true }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(differing(page, 0)).toBeVisible();
  await expect(page.getByText("as it was when detached").first()).toBeVisible();
  const footer = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=blocks/footer.html`,
  );
  expect(await footer.text()).toContain('@{copy of="ticket-office-hours"');
  await page.getByRole("button", { name: "Link again on About us" }).first().click();
  await expect(page.getByText("No page changes.")).toBeVisible();
  await page.getByRole("button", { name: "Link again", exact: true }).click();
  await expect(page.getByText("as it was when detached")).toHaveCount(0);
});

test("a page is detached as a whole", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html&tab=settings`);
  await page.getByRole("button", { name: "Detach everything" }).click();
  await page.getByRole("checkbox", { name: /Detach the blocks inside as well/ }).check();
  await expect(page.getByText("No byte of any page changes.")).toBeVisible();
  await page.getByRole("button", { name: "Detach", exact: true }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(differing(page, 0)).toBeVisible();
  await saveElsewhere(
    page,
    running,
    "blocks/footer.html",
    "</footer>",
    "<p>Everywhere</p></footer>",
  );
  const live = await page.request.get(`${running.tool}/api/v1/sites/ternholm/findings`);
  expect(live.ok()).toBe(true);
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/review`);
  await expect(page.getByRole("button", { name: /About us/ })).toHaveCount(0);
});

test("a block is inserted as a copy, into a page and on many", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  await page.getByRole("button", { name: "Add to main" }).click();
  await page.getByLabel("Find a call").fill("ticket office");
  await page.getByLabel("Find a call").press("Enter");
  await expect(page.getByText("no later edit of the block reaches it.")).toBeVisible();
  await page.getByRole("button", { name: "Insert a copy" }).click();
  const main = page.getByRole("region", { name: "Region main" });
  await expect(main.getByText("one-off copy")).toHaveCount(1);
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText('@{copy of="ticket-office-hours"');
  await page.keyboard.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();

  await page.goto(`${running.tool}/ternholm/roll-out?block=winter-banner&region=main`);
  await page.getByRole("checkbox", { name: /As copies/ }).check();
  await page.getByRole("searchbox", { name: "Find in Pages" }).fill("/jobs/");
  await page.getByRole("button", { name: /^Choose Jobs/ }).click();
  await page.getByRole("button", { name: "Put it there" }).click();
  await expect(differing(page, 2)).toBeVisible();
  const jobs = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=pages/jobs.html`,
  );
  expect(await jobs.text()).toContain('@{copy of="winter-banner"');
});
