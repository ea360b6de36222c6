const names = new WeakMap<object, number>();
let named = 0;

/** A short name for a thing that may be long, as a key of what is asked about it: the same as
 *  long as it is the same one. */
export function nameOf(thing: object): number {
  const name = names.get(thing) ?? ++named;
  names.set(thing, name);
  return name;
}
