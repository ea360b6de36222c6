import { expect, saveElsewhere, test } from "./bench";

test("two revisions of a block live apart on one page", async ({ page, running }) => {
  const api = `${running.tool}/api/v1/sites/ternholm`;
  const headers = { "X-Brick-Shelf": "e2e" };
  const put = async (path: string, text: string) => {
    const saved = await page.request.put(`${api}/documents?path=${path}`, {
      headers: { ...headers, "If-None-Match": "*" },
      data: Buffer.from(text),
    });
    expect(saved.ok(), path).toBe(true);
  };
  const style = (colour: string) =>
    `.badge{color:${colour};animation:glow 9s infinite}.badge::before{content:"${colour}"}` +
    `@keyframes glow{to{opacity:${colour === "red" ? 0.9 : 0.8}}}`;
  const behaviour = (words: string) =>
    `for (const b of document.querySelectorAll(".badge")) b.append("${words}");\n` +
    `document.addEventListener("click", (e) => e.target.append("!${words}"));\n`;
  await put("blocks/badge.html", '<p class="badge">B</p>');
  await put("blocks/badge.css", style("red"));
  await put("blocks/badge.js", behaviour(" then"));
  await put(
    "pages/apart.html",
    "---\ntitle: Apart\n---\n<head></head>@{badge /}@{badge /}@{badge /}<p class=badge id=loose>L</p>",
  );
  const detach = await page.request.post(`${api}/operations`, {
    headers,
    data: { operation: "detach", spots: [{ doc: "pages/apart.html", address: "main/badge~2" }] },
  });
  const { change_set } = (await detach.json()) as { change_set: object };
  await page.request.post(`${api}/change-sets`, { headers, data: change_set });
  const look = async () => {
    await page.goto(`${running.site}/apart/`);
    return page.locator(".badge").evaluateAll((all) =>
      all.map((e) => {
        const { color, animationName } = getComputedStyle(e);
        return [
          e.textContent,
          color,
          getComputedStyle(e, "::before").content,
          animationName.replace(/-\w{8}$/, "-own"),
        ].join(" ");
      }),
    );
  };
  const publish = () =>
    page.request.post(`${api}/releases`, { headers, data: { title: "Publish" } });
  await publish();
  const red = 'rgb(255, 0, 0) "red" glow';
  const green = 'rgb(0, 128, 0) "green" glow';
  expect(await look()).toEqual([
    `B then ${red}`,
    `B then ${red}`,
    `B then ${red}`,
    `L then ${red}`,
  ]);
  expect(await page.content()).not.toContain("data-shelf");

  await saveElsewhere(page, running, "blocks/badge.css", style("red"), style("green"));
  await saveElsewhere(page, running, "blocks/badge.js", behaviour(" then"), behaviour(" now"));
  await publish();
  expect(await look()).toEqual([
    `B now ${green}`,
    `B then ${red}-own`,
    `B now ${green}`,
    `L now ${green}`,
  ]);
  await page.locator(".badge").nth(1).click();
  await expect(page.locator(".badge").nth(1)).toHaveText("B then! then");
  await page.locator(".badge").nth(0).click();
  await expect(page.locator(".badge").nth(0)).toHaveText("B now! now");
});

test("a piece that looks like a block is found, and linked with its words as values", async ({
  page,
  running,
}) => {
  const at = `${running.tool}/api/v1/sites/ternholm/documents?path=`;
  const headers = { "X-Brick-Shelf": "e2e" };
  await page.request.put(`${at}blocks/pledge.html`, {
    headers: { ...headers, "If-None-Match": "*" },
    data: Buffer.from(
      "---\nfields: {who: {type: text, label: Who}}\n---\n" +
        '<div class="pledge"><b>@{=who}</b> sails whatever the weather</div>',
    ),
  });
  for (const who of ["Fulmar", "Petrel"])
    await page.request.put(`${at}pages/${who.toLowerCase()}-pledge.html`, {
      headers: { ...headers, "If-None-Match": "*" },
      data: Buffer.from(
        `---\ntitle: ${who}\n---\n<p>a</p><div class="pledge"><b>${who}</b> sails whatever the weather</div>`,
      ),
    });
  await page.goto(`${running.tool}/ternholm/blocks/pledge?tab=placements`);
  const like = page.getByRole("region", { name: "Looks like it" });
  await expect(like).toContainText("2 pieces of texts look like it and are not linked");
  await expect(like).toContainText("with Who: Fulmar");
  await like.getByRole("button", { name: "Declare the piece on Petrel a copy" }).click();
  await expect(like.getByText("No page changes.")).toBeVisible();
  await like.getByRole("button", { name: "Declare", exact: true }).click();
  await expect(page.locator("tr[data-address]")).toContainText(["one-off copy"]);
  await like.getByRole("button", { name: "Link the piece on Fulmar" }).click();
  await expect(like.getByText("No page changes.")).toBeVisible();
  await like.getByRole("button", { name: "Link", exact: true }).click();
  await expect(page.locator("tr[data-address]")).toHaveCount(2);
  await expect(like).toHaveCount(0);
  const fulmar = await page.request.get(`${at}pages/fulmar-pledge.html`);
  expect(await fulmar.text()).toContain('<p>a</p>@{pledge who="Fulmar" /}');
});
