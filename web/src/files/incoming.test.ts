import { describe, expect, it } from "vitest";
import { batches, beside, cleaned, incoming, sized, worthKnowing, wrongWith } from "./incoming";

const at = (path: string, hash = "h") => ({
  path,
  hash,
  url: "",
  size: 1,
  width: 0,
  height: 0,
  text: false,
});
const named = (path: string, text = "x") => ({ path, file: new File([text], path) });

describe("what comes in", () => {
  it("stands below a folder under a name that a site can have", () => {
    expect(cleaned('a b:"c"#1.png')).toBe("a-b-c-1.png");
    const [one] = incoming([named("sub/My ship.png")], "assets/", []);
    expect(one).toMatchObject({ path: "assets/sub/My-ship.png", clash: "" });
  });
  it("is asked about where its name is taken, also by another that comes in", () => {
    const list = incoming([named("a.png"), named("b.png"), named("b.png", "y")], "assets/", [
      at("assets/a.png"),
    ]);
    expect(list.map((i) => i.clash)).toEqual(["replace", "", "replace"]);
  });
  it("is put beside, in its place, or left", () => {
    expect(beside("assets/a.tar.gz", new Set(["assets/a.tar-2.gz"]))).toBe("assets/a.tar-3.gz");
    expect(beside("files/LICENSE", new Set())).toBe("files/LICENSE-2");
    const there = [at("assets/a.png", "old"), at("assets/c.png")];
    const list = incoming(
      [named("a.png"), named("b.png"), named("b.png", "y"), named("c.png")],
      "assets/",
      there,
    );
    const [a, b, c, d] = list;
    expect(paths(batches(list, there))).toEqual([
      ["assets/a.png old", "assets/b.png ", "assets/c.png h"],
    ]);
    expect(
      paths(
        batches([a, b, { ...c, clash: "beside" }, { ...d, clash: "leave" }] as typeof list, there),
      ),
    ).toEqual([["assets/a.png old", "assets/b-2.png "]]);
  });
  it("is sent in parts where it is much", () => {
    const big = (path: string) => {
      const one = named(path);
      Object.defineProperty(one.file, "size", { value: 30 << 20 });
      return one;
    };
    const list = incoming([big("a"), big("b"), named("c")], "files/", []);
    expect(paths(batches(list, []))).toEqual([["files/a "], ["files/b ", "files/c "]]);
  });
  it("is refused where it is too large, and spoken of where it holds a script", async () => {
    const [large] = incoming([named("a.bin")], "files/", []);
    if (!large) throw new Error("none");
    Object.defineProperty(large.file, "size", { value: 41 << 20 });
    expect(await wrongWith(large)).toBe("has 41 MB; a file can have 40 MB");
    const svg = (text: string) => incoming([named("a.svg", text)], "assets/", [])[0];
    expect(await worthKnowing(svg("<svg onload=x()>") as never)).toContain("holds a script");
    expect(await worthKnowing(svg("<svg><path d='on'/></svg>") as never)).toBe("");
  });
});

const paths = (list: ReturnType<typeof batches>) =>
  list.map((b) => b.map((f) => `${f.path} ${f.before}`));

it("tells a size", () => {
  expect([999, 1499, 2_340_000].map(sized)).toEqual(["999 B", "1 kB", "2.3 MB"]);
});
