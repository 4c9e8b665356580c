import { useCallback } from "react";
import { useSearchParams } from "react-router";
import { useAddress } from "../../shared/useAddressed";
import { FIELDS, type Filter } from "./PointFilter";

/** Which points are asked for, kept in the address, so that a link lists the same ones. */
export function useFilter(): [Filter, (filter: Filter) => void] {
  const [search] = useSearchParams();
  const write = useAddress();
  const filter = Object.fromEntries(
    FIELDS.flatMap((name) => {
      const value = search.get(name);
      return value ? [[name, value]] : [];
    }),
  ) as Filter;
  const set = useCallback(
    (next: Filter) => write(Object.fromEntries(FIELDS.map((name) => [name, next[name] || null]))),
    [write],
  );
  return [filter, set];
}
