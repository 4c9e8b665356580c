import { createContext, useContext, useMemo } from "react";
import type {
  Consequences,
  Days,
  DesignOut,
  Ladder,
  LadderReading,
  ShelfOfCopy,
  Verdicts,
} from "../api/types";
import type { Change } from "./changes";
import type { Edits } from "./useEdits";

/** A design that a person looks at and edits: what it is, as of when it is looked at, and what can be done to it. */
export interface EditedDesign extends Omit<Edits, "conflict" | "settle"> {
  design: DesignOut;
  canEdit: boolean;
  days: Days;
  /** The place of the as-of date among the design's days, and the date itself. */
  place: number;
  on: string;
  setPlace: (place: number) => void;
  /** Shows what changes would come to, without saving them. */
  tryOut: (changes: Change[]) => void;
  /** What somebody else did last while this page was open, in words; empty for nothing. */
  others: string;
  setReference: () => void;
}

/** The newest figures of all targets: of the ladder that is tried, else of the design as saved. They change with every
 * key that is typed, so what shows them is told apart from everything else. */
export interface ShownFigures {
  consequences: Consequences | undefined;
  /** What becomes of duties by what is tried; null where that is not known, or nothing is. */
  duties: Verdicts | null;
  tried: boolean;
}

/** A ladder that is tried: what it says, and what it would leave on the shelves once that is known. */
export interface Trial {
  ladder: Ladder;
  reading: LadderReading;
  shelves: ShelfOfCopy[] | null;
}

export const FiguresContext = createContext<ShownFigures>({
  consequences: undefined,
  duties: null,
  tried: false,
});
export const TrialContext = createContext<Trial | null>(null);

export function useShownFigures(): ShownFigures {
  return useContext(FiguresContext);
}

export function useTrial(): Trial | null {
  return useContext(TrialContext);
}

export const DesignContext = createContext<EditedDesign | null>(null);

/** The design that is open. */
export function useDesign(): EditedDesign {
  const design = useContext(DesignContext);
  if (design === null) throw new Error("useDesign outside of a design");
  return design;
}

/** What people call workloads, routes and their copies, by their ids. */
export interface Names {
  workload: (id: string) => string;
  route: (id: string) => string;
  copy: (route: string, copy: string) => string;
}

export function useNames(): Names {
  const { workloads, routes } = useDesign().design.document;
  return useMemo(() => {
    const names = new Map(workloads.map((one) => [one.id, one.name || one.id]));
    const known = new Map(routes.map((one) => [one.id, one]));
    const route = (id: string) => known.get(id)?.name || id;
    return {
      // Machines that come later have the id of their workload, and the date.
      workload: (id) => {
        const [key = "", from] = id.split("@");
        const name = names.get(key) ?? key;
        return from ? `${name} from ${from}` : name;
      },
      route,
      copy: (of, id) => `${route(of)}: ${known.get(of)?.copies.find((one) => one.id === id)?.name || id}`,
    };
  }, [workloads, routes]);
}

/** The name of a target by its id. */
export function useTargetName(): (id: string) => string {
  const { targets } = useDesign().design.document;
  return (id) => targets.find((target) => target.id === id)?.name || id;
}
