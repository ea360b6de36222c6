import { Waiting } from "../shared/Waiting";
import { memo, Suspense, useEffect, useState } from "react";
import { Outlet, useNavigation } from "react-router";

const opening = <Waiting error={null}>Opening…</Waiting>;

/** Milliseconds after which one is told that the next place is long in coming. */
const long = 200;

/** The place of the address. It does not follow what is on the wall. Where the next one is
 *  long in coming, that is said in the place of the last one. */
export const Place = memo(function Place() {
  const coming = useNavigation().location?.key;
  const [late, setLate] = useState<string>();
  useEffect(() => {
    if (!coming) return;
    const timer = setTimeout(() => setLate(coming), long);
    return () => clearTimeout(timer);
  }, [coming]);
  if (coming && late === coming) return opening;
  return (
    <Suspense fallback={opening}>
      <Outlet />
    </Suspense>
  );
});
