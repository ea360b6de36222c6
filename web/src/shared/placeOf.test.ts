import { expect, it } from "vitest";
import { placesOf } from "./placeOf";

const page = (doc: string, title: string) => ({ doc, title, path: "/x/", layout: "" });
const overview = {
  blocks: [
    { name: "footer", title: "Footer", category: "", about: "", states: "", pages: 1, changed: 0 },
  ],
  pages: [page("pages/about.html", "About us")],
  drafts: [page("pages/new/a b.html", "New")],
  titles: { "menus/main.yaml": "Main menu", "rules/side.yaml": "At the side" },
};

it("knows a document by its title, and where one works on it", () => {
  expect(
    placesOf(
      "small",
      [
        "blocks/footer.html",
        "blocks/footer.css",
        "pages/about.html",
        "pages/new/a b.html",
        "rules/main.yaml",
        "rules/side.yaml",
        "layouts/port.html",
        "menus/main.yaml",
        "shortcodes/hours.js",
        "blocks/gone.js",
        "site.yaml",
        "assets/a/logo.svg",
      ],
      overview,
    ),
  ).toEqual([
    { title: "Footer", to: "/small/blocks/footer" },
    { title: "About us", to: "/small/pages?doc=pages%2Fabout.html" },
    { title: "New", to: "/small/pages?doc=pages%2Fnew%2Fa%20b.html" },
    { title: "main", to: "/small/rules/main" },
    { title: "At the side", to: "/small/rules/side" },
    { title: "port", to: "/small/layouts/port" },
    { title: "Main menu", to: "/small/menus/main" },
    { title: "hours", to: "/small/scripts/hours" },
    { title: "gone", to: "/small/blocks/gone" },
    { title: "The site's values", to: "/small/site" },
    { title: "a/logo.svg", to: "/small/files?path=assets%2Fa%2Flogo.svg" },
  ]);
});
