import { lazy, useState, type ComponentType } from "react";

/** A component that is loaded when it is first shown: one of those that a module
 *  exports. Where ahead has loaded it before, it is there at once. */
export function later<P extends object, K extends string>(
  load: () => Promise<Record<K, ComponentType<P>>>,
  name: K,
) {
  let there: ComponentType<P> | null = null;
  const ahead = async () => (there = (await load())[name]);
  const Waiting = lazy(async () => ({ default: await ahead() }));
  function Later(props: P) {
    const [Shown] = useState<ComponentType<P>>(() => there ?? Waiting); // one and the same for as long as it stands
    return <Shown {...props} />;
  }
  return Object.assign(Later, { ahead });
}
