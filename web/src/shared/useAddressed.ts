import { useCallback, useEffect } from "react";
import { useHref, useLocation, useNavigate, useSearchParams } from "react-router";

/** What stands in the address beside the path; null takes a word out of it. */
export type Words = Record<string, string | null>;

const A_MOMENT_MS = 300;

/** Writes words into the address in place of those of the same names; what else stands there stays, and Back skips it. */
export function useAddress(): (words: Words) => void {
  const navigate = useNavigate();
  const root = useHref("/");
  return useCallback(
    (words) => {
      const search = searchWith(words);
      if (search === null) return;
      // The path as it is by now: another view may be on its way.
      const pathname = `/${window.location.pathname.slice(root.length).replace(/^\//, "")}`;
      navigate({ pathname, search }, { replace: true });
    },
    [navigate, root],
  );
}

/** What stands behind the path with some words changed; null where nothing changes. */
function searchWith(words: Words): string | null {
  const before = new URLSearchParams(window.location.search);
  const search = new URLSearchParams(before);
  for (const [name, value] of Object.entries(words)) {
    if (value === null) search.delete(name);
    else search.set(name, value);
  }
  return search.toString() === before.toString() ? null : search.toString();
}

/** One of several ways to show something, kept in the address, so that a link shows what its sender sees. */
export function useAddressed<K extends string>(
  name: string,
  options: Record<K, unknown>,
  first: NoInfer<K>,
): [K, (value: K) => void] {
  const [search] = useSearchParams();
  const write = useAddress();
  const said = search.get(name);
  const set = useCallback(
    (value: K) => write({ [name]: value === first ? null : value }),
    [write, name, first],
  );
  return [said !== null && Object.hasOwn(options, said) ? (said as K) : first, set];
}

/** Keeps the address at what is shown, a moment after the hand has come to rest; also where another path is gone to. */
export function useMirrored(words: Words) {
  const { pathname } = useLocation();
  const said = JSON.stringify(words);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another path begins without the words
  useEffect(() => {
    const timer = setTimeout(() => {
      const search = searchWith(JSON.parse(said));
      // Nothing is drawn anew: what the words say is what is shown already.
      if (search !== null) window.history.replaceState(window.history.state, "", `?${search}`);
    }, A_MOMENT_MS);
    return () => clearTimeout(timer);
  }, [said, pathname]);
}

const ALONE = { no: "under its chart", yes: "alone" };

/** Whether what stands below a chart has the whole page. */
export function useAlone(): [boolean, (alone: boolean) => void] {
  const [alone, setAlone] = useAddressed("alone", ALONE, "no");
  return [alone === "yes", useCallback((wanted) => setAlone(wanted ? "yes" : "no"), [setAlone])];
}
