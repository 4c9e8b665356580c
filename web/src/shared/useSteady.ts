import { useCallback, useLayoutEffect, useRef } from "react";

/** A function that stays the same while what it does changes, for parts that are not to be drawn anew on its account. */
export function useSteady<A extends unknown[]>(act: (...given: A) => void): (...given: A) => void {
  const newest = useRef(act);
  useLayoutEffect(() => {
    newest.current = act;
  });
  return useCallback((...given: A) => newest.current(...given), []);
}
