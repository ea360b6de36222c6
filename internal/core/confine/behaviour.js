const document = ((real, attribute, own, rest) => {
  const mark = (e) => e.closest?.(`[${attribute}]`)?.getAttribute(attribute);
  const mine = (e) => mark(e)?.endsWith(`-${own}`) ?? rest;
  const shared = (e) => mine(e) || mark(e) === undefined;
  const all = (found) => {
    const list = [...found].filter(mine);
    list.item = (i) => list[i] ?? null;
    return list;
  };
  const heard = new WeakMap();
  const hearing = (heed) => {
    if (typeof heed !== "function") return heed;
    if (!heard.has(heed))
      heard.set(heed, function (event) {
        if (!(event.target instanceof Element) || shared(event.target)) heed.call(this, event);
      });
    return heard.get(heed);
  };
  const instead = {
    querySelectorAll: (s) => all(real.querySelectorAll(s)),
    querySelector: (s) => all(real.querySelectorAll(s))[0] ?? null,
    getElementsByClassName: (s) => all(real.getElementsByClassName(s)),
    getElementsByTagName: (s) => all(real.getElementsByTagName(s)),
    getElementsByName: (s) => all(real.getElementsByName(s)),
    getElementById: (id) => {
      const e = real.getElementById(id);
      return e && shared(e) ? e : null;
    },
    addEventListener: (kind, heed, how) => real.addEventListener(kind, hearing(heed), how),
    removeEventListener: (kind, heed, how) => real.removeEventListener(kind, hearing(heed), how),
  };
  return new Proxy(real, {
    get: (_, key) => {
      if (Object.hasOwn(instead, key)) return instead[key];
      const value = Reflect.get(real, key, real);
      return typeof value === "function" ? value.bind(real) : value;
    },
    set: (_, key, value) => Reflect.set(real, key, value, real),
  });
})(globalThis.document, ATTRIBUTE, OWN, REST);
