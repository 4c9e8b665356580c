import { useCallback, useLayoutEffect, useRef, useState } from "react";

/** A function that stays the same while what it does changes, for parts that are not to be drawn anew on its account. */
export function useSteady<A extends unknown[], R>(act: (...given: A) => R): (...given: A) => R {
  const newest = useRef(act);
  useLayoutEffect(() => {
    newest.current = act;
  });
  return useCallback((...given: A) => newest.current(...given), []);
}

/** The value as it was before while it says the same, for parts that are not to be drawn anew on its account. */
export function useSame<T>(value: T): T {
  const [known, setKnown] = useState({ value, said: JSON.stringify(value) });
  const said = JSON.stringify(value);
  if (said === known.said) return known.value;
  setKnown({ value, said });
  return value;
}
