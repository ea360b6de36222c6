import type { MenuItem } from "../api/client";

/** An entry of a menu in a flat list, as deep as it is nested. */
export interface Entry {
  id: number;
  depth: number;
  item: Omit<MenuItem, "items">;
}

let given = 0;

/** A new entry, with an id of its own. */
export function entry(item: Partial<MenuItem>, depth = 0): Entry {
  return {
    id: ++given,
    depth,
    item: {
      label: "",
      to: "",
      badge: "",
      note: "",
      icon: "",
      icon_size: "",
      image: "",
      audience: "",
      from: "",
      until: "",
      panel: "",
      new_tab: false,
      was: "",
      ...item,
    },
  };
}

/** The entries of nested items, each before those under it. */
export function flat(items: MenuItem[], depth = 0): Entry[] {
  return items.flatMap(({ items: under, ...item }) => [
    entry(item, depth),
    ...flat(under, depth + 1),
  ]);
}

/** The nested items of a flat list. */
export function nested(list: Entry[]): MenuItem[] {
  const out: MenuItem[] = [];
  for (let i = 0; i < list.length; i = end(list, i)) {
    const e = list[i];
    if (e) out.push({ ...e.item, items: nested(list.slice(i + 1, end(list, i))) });
  }
  return out;
}

/** Where what stands under an entry ends. */
export function end(list: Entry[], i: number): number {
  const depth = list[i]?.depth ?? 0;
  let j = i + 1;
  while (j < list.length && (list[j]?.depth ?? 0) > depth) j++;
  return j;
}

/** The list with an entry, and all under it, a second time behind them; and the id of that. */
export function doubled(list: Entry[], i: number): { list: Entry[]; id: number } {
  const stop = end(list, i);
  const again = list.slice(i, stop).map((e) => entry({ ...e.item, was: "" }, e.depth));
  return { list: [...list.slice(0, stop), ...again, ...list.slice(stop)], id: again[0]?.id ?? -1 };
}

/** The list with an entry, and all under it, before the one that stands at a place of
 *  the list without them; as deep as it may be there. */
export function put(list: Entry[], i: number, before: number, depth: number): Entry[] {
  const part = list.slice(i, end(list, i));
  const rest = [...list.slice(0, i), ...list.slice(end(list, i))];
  const prev = rest[before - 1];
  const next = rest[before];
  const fits = Math.max(Math.min(depth, prev ? prev.depth + 1 : 0), next?.depth ?? 0, 0);
  const by = fits - (list[i]?.depth ?? 0);
  return [
    ...rest.slice(0, before),
    ...part.map((e) => ({ ...e, depth: e.depth + by })),
    ...rest.slice(before),
  ];
}

/** The list with an entry moved by one step: among its neighbours, under the one before
 *  it, or out from under the one above. The same list where it cannot move so. */
export function step(list: Entry[], i: number, way: "up" | "down" | "in" | "out"): Entry[] {
  const e = list[i];
  if (!e) return list;
  switch (way) {
    case "up":
      for (let j = i - 1; j >= 0; j--) {
        if ((list[j]?.depth ?? 0) === e.depth) return put(list, i, j, e.depth);
        if ((list[j]?.depth ?? 0) < e.depth) return list;
      }
      return list;
    case "down": {
      const j = end(list, i);
      return list[j]?.depth === e.depth ? put(list, i, i + end(list, j) - j, e.depth) : list;
    }
    case "in":
      return (list[i - 1]?.depth ?? -1) >= e.depth ? put(list, i, i, e.depth + 1) : list;
    case "out": {
      if (e.depth === 0) return list;
      let parent = i - 1;
      while ((list[parent]?.depth ?? 0) >= e.depth) parent--;
      return put(list, i, end(list, parent) - (end(list, i) - i), e.depth - 1);
    }
  }
}

/** Where an entry stands, in words: after what it stands under, and among how many. */
export function standsAt(list: Entry[], id: number): string {
  const i = list.findIndex((e) => e.id === id);
  const e = list[i];
  if (!e) return "";
  let begin = i - 1;
  while (begin >= 0 && (list[begin]?.depth ?? 0) >= e.depth) begin--;
  const above = begin < 0 ? undefined : list[begin];
  const stop = above ? end(list, begin) : list.length;
  const beside = list.slice(begin + 1, stop).filter((o) => o.depth === e.depth);
  const at = `${e.item.label} is ${beside.indexOf(e) + 1} of ${beside.length}`;
  return above ? `${at} under ${above.item.label}` : `${at} at the top`;
}
