// What every script finds, and what is taken away from it. Everything is frozen,
// so that no run can leave anything behind for another.
(function () {
  "use strict";
  const gone = (name, instead) => function () { throw new TypeError(name + " is not available" + instead); };
  for (const f of [function () {}, function* () {}, async function () {}]) {
    Object.defineProperty(Object.getPrototypeOf(f), "constructor", { value: gone("Function", "") });
  }
  Math.random = gone("Math.random", "; use random(seed), which gives the same numbers each time");
  delete globalThis.eval;
  delete globalThis.Function;

  // What knows of no languages must not look as if it did.
  const local = (proto, name, given) => {
    const own = proto[name];
    Object.defineProperty(proto, name, { value(...args) {
      if (args.length > given && args[given] !== undefined) throw new TypeError(name + " knows no languages here; write out the form that you want");
      return Reflect.apply(own, this, args.slice(0, given));
    }, writable: true, configurable: true });
  };
  for (const name of ["toLocaleString", "toLocaleDateString", "toLocaleTimeString"]) local(Date.prototype, name, 0);
  for (const proto of [Number.prototype, Array.prototype, Object.getPrototypeOf(Int8Array.prototype)]) local(proto, "toLocaleString", 0);
  for (const name of ["toLocaleUpperCase", "toLocaleLowerCase"]) local(String.prototype, name, 0);
  local(String.prototype, "localeCompare", 1);

  // The same for classes of characters, which would match nothing.
  const named = /(^|[^\\])(\\\\)*\\[pP]\{/, test = RegExp.prototype.test;
  const Plain = RegExp;
  globalThis.RegExp = function RegExp(...args) {
    const [of, flags] = args;
    const source = of instanceof Plain ? of.source : String(of);
    const given = flags !== undefined ? String(flags) : of instanceof Plain ? of.flags : "";
    if (/[uv]/.test(given) && Reflect.apply(test, named, [source])) throw new SyntaxError("classes such as \\p{Lu} are not available; write the letters out, as in [A-ZÄÖÜ]");
    if (!new.target) return Plain(...args);
    return Reflect.construct(Plain, args, new.target === globalThis.RegExp ? Plain : new.target);
  };
  Object.defineProperty(globalThis.RegExp, "prototype", { value: Plain.prototype, writable: false });
  Object.defineProperty(globalThis.RegExp, Symbol.species, { get() { return this; } });
  Object.defineProperty(Plain.prototype, "constructor", { value: globalThis.RegExp });

  const entities = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&#34;", "'": "&#39;" };
  const replace = String.prototype.replace;
  const escape = (v) => replace.call(String(v), /[&<>"']/g, (c) => entities[c]);
  class Markup {
    constructor(text) { this.text = text; Object.freeze(this); }
    toString() { return this.text; }
  }
  const piece = (v) => {
    if (v === null || v === undefined || v === false) return "";
    if (v instanceof Markup) return v.text;
    if (Array.isArray(v)) return v.map(piece).join("");
    return escape(v);
  };
  globalThis.html = (parts, ...values) => {
    let out = parts[0];
    for (let i = 0; i < values.length; i++) out += piece(values[i]) + parts[i + 1];
    return new Markup(out);
  };
  globalThis.random = (seed) => {
    let h = 1779033703;
    for (const c of String(seed)) h = Math.imul(h ^ c.codePointAt(0), 3432918353), h = (h << 13) | (h >>> 19);
    return () => {
      h = (h + 0x6d2b79f5) | 0;
      let t = Math.imul(h ^ (h >>> 15), 1 | h);
      t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
      return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
    };
  };

  const seen = new Set();
  const freeze = (o) => {
    if ((typeof o !== "object" && typeof o !== "function") || o === null || seen.has(o)) return;
    seen.add(o);
    Object.freeze(o);
    freeze(Object.getPrototypeOf(o));
    for (const k of Reflect.ownKeys(o)) {
      const d = Object.getOwnPropertyDescriptor(o, k);
      if (d.get) freeze(d.get);
      if (d.set) freeze(d.set);
      if ("value" in d) freeze(d.value);
    }
  };
  freeze(globalThis);
  for (const v of [[][Symbol.iterator](), ""[Symbol.iterator](), new Map()[Symbol.iterator](), new Set()[Symbol.iterator](), /x/[Symbol.matchAll](""), function* () {}, (function* () {})(), async function () {}, Markup]) freeze(v);

  const parse = JSON.parse;
  const asText = String;
  return {
    tell: (thrown) => asText(thrown),
    read(text) {
      const v = parse(text);
      seen.clear();
      freeze(v);
      return v;
    },
    run(shortcode, args, inner, page, site, now) {
      const out = shortcode({ args: parse(args), inner: new Markup(inner), page, site, now });
      if (out instanceof Markup) return { text: out.text, html: true };
      if (out === null || out === undefined) return { text: "", html: false };
      if (typeof out === "object" || typeof out === "function" || typeof out === "symbol") throw new TypeError("a shortcode gives a text, a number, or what html`…` makes; this one gave " + (Array.isArray(out) ? "a list" : "a thing of the type " + typeof out));
      return { text: String(out), html: false };
    },
  };
})();
