import { expect, test } from "./bench";

/** Places in which a value of the block, @{=v}, or what it encloses, @{=inner}, stands. */
const places = [
  "<p>@{=v}</p>",
  '<p title="@{=v}">a</p>',
  "<p title='@{=v}'>a</p>",
  '<p class="a @{=v} b">a</p>',
  '<p data-a="@{=v}">a</p>',
  '<p style="color:@{=v}">a</p>',
  '<a href="@{=v}">a</a>',
  "<a href='@{=v}'>a</a>",
  '<a href=" @{=v}">a</a>',
  '<a href="/x/@{=v}">a</a>',
  '<a href="/@{=v}">a</a>',
  '<a href="?q=@{=v}&amp;r=1">a</a>',
  '<a href="#@{=v}">a</a>',
  '<a href="java@{=v}">a</a>',
  '<a href="https://a.example/@{=v}">a</a>',
  '<a href="@{when v}@{/when}@{=v}">a</a>',
  '<a href="@{each l as x}@{=x.t}@{/each}">a</a>',
  '<a href="@{=v}@{=v}">a</a>',
  '<a href="@{echo}@{=v}@{/echo}">a</a>',
  '<a href="@{=inner}">a</a>',
  '<a title="@{=inner}">a</a>',
  '<img alt="@{=v}" src="@{=v}">',
  '<img srcset="@{=v} 1x, /b.png 2x">',
  '<form action="@{=v}"><button formaction="@{=v}">a</button></form>',
  '<svg><a xlink:href="@{=v}"><text>@{=v}</text></a></svg>',
  '<svg><a><set attributeName="href" to="@{=v}"/></a></svg>',
  '<svg><a><animate attributeName="href" values="#a;@{=v}"/></a></svg>',
  "<svg><title>@{=v}</title></svg>",
  "<textarea>@{=v}</textarea>",
  "<textarea>@{echo}@{=v}@{/echo}</textarea>",
  '<noscript><p title="@{=v}">@{=v}</p></noscript>',
  "<!-- @{=v} -->",
  "<!--@{=v}-->",
  '<li@{when v} class="@{=v}"@{/when}>a</li>',
  '<input type=text@{when v} value="@{=v}"@{/when}>',
  "<ul><li>@{=r}</li></ul>",
  "<p>@{=r}</p>",
  "<h3>@{=r}</h3>",
  "<table><tr><td>@{=r}</td></tr></table>",
];

const hostile = [
  "javascript:window.pwned=1",
  '" onmouseover="window.pwned=1" x="',
  "'><img src=x onerror=window.pwned=1>",
  "</textarea></title></noscript></script><script>window.pwned=1</script>",
  "--><script>window.pwned=1</script><!--",
  "script:window.pwned=1",
  "#a;javascript:window.pwned=1",
  "&#106;avascript&colon;window.pwned=1",
  "]]><svg onload=window.pwned=1>",
];

/** The elements of a page, each with the names of its attributes and all that it stands in,
 *  and the schemes of all addresses. */
function seen(): { structure: string[]; schemes: string[] } {
  const structure: string[] = [],
    schemes = new Set<string>();
  const walk = (of: Element, path: string) => {
    for (const e of of.children) {
      const at = `${path}/${e.tagName}[${e.getAttributeNames().join()}]`;
      structure.push(at);
      for (const name of ["href", "src", "action", "formaction", "to", "values"]) {
        if ((name === "to" || name === "values") && !/^(set|animate)$/i.test(e.tagName)) continue;
        const given =
          name === "href"
            ? (e.getAttribute("href") ?? e.getAttribute("xlink:href"))
            : e.getAttribute(name);
        for (const one of given === null ? [] : name === "values" ? given.split(";") : [given]) {
          try {
            schemes.add(new URL(one, document.baseURI).protocol);
          } catch {
            schemes.add("none");
          }
        }
      }
      walk(e, at);
    }
  };
  walk(document.body, "");
  return { structure, schemes: [...schemes] };
}

test("whatever stands in a value, a browser finds the elements and attributes that it finds with a word", async ({
  page,
  running,
}) => {
  expect(places.length * hostile.length, "cases").toBeGreaterThan(150);
  const text = (v: string) =>
    `---\ntitle: V\n---\n<!doctype html><html><head><title>v</title></head><body>@{places v=${JSON.stringify(v)} r=${JSON.stringify(v)} l=${JSON.stringify([{ t: v }])}}${v.replace(/&/g, "&amp;").replace(/</g, "&lt;")}@{/places}</body></html>`;
  const values = ["word", ...hostile];
  const docs: [string, string][] = [
    ["blocks/echo.html", "@{=inner}"],
    [
      "blocks/places.html",
      `---\nfields: {v: {type: text}, r: {type: rich}, l: {type: list, fields: {t: {type: text}}}}\n---\n${places.map((p, i) => `<section id="s${i}">${p}</section>`).join("\n")}`,
    ],
    ...values.map((v, i): [string, string] => [`pages/value-${i}.html`, text(v)]),
  ];
  const send = async (path: string, data: unknown) => {
    const answer = await page.request.post(`${running.tool}/api/v1/sites/ternholm/${path}`, {
      data,
      headers: { "X-Brick-Shelf": "1" },
    });
    expect(answer.ok(), await answer.text()).toBe(true);
  };
  await send("change-sets", {
    title: "Places",
    changes: docs.map(([path, text]) => ({ path, before: "", text })),
  });
  await send("releases", { title: "Places" });
  const shown = async (i: number) => {
    await page.goto(`${running.site}/value-${i}/`);
    return page.evaluate(seen);
  };
  const plain = await shown(0);
  expect(plain.structure.length).toBeGreaterThan(places.length);
  for (let i = 1; i < values.length; i++) {
    const got = await shown(i);
    // What a rich text holds is its own.
    const own = (list: string[]) =>
      list.filter((at) => !/SECTION\[id\]\/(UL|P\[\]|H3|TABLE)/.test(at));
    expect(own(got.structure), `${values[i]}`).toEqual(own(plain.structure));
    for (const scheme of got.schemes)
      expect(["http:", "https:", "mailto:", "tel:"], `${values[i]}`).toContain(scheme);
    expect(await page.evaluate(() => "pwned" in window), `${values[i]}`).toBe(false);
  }
});
