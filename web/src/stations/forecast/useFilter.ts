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
  // What is the same stays as it is in the address: two words may be changed before the first is shown.
  const set = (next: Filter) =>
    write(
      Object.fromEntries(
        FIELDS.filter((name) => next[name] !== filter[name]).map((name) => [name, next[name] || null]),
      ),
    );
  return [filter, set];
}
