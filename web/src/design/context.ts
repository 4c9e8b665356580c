import { createContext, useContext } from "react";
import type {
  Consequences,
  Days,
  DesignOut,
  EntryOf,
  Ladder,
  LadderReading,
  ListName,
  ShelfOfCopy,
} from "../api/types";

/** How the last edit stands. */
export type SaveState =
  | { state: "idle" }
  | { state: "saving" }
  | { state: "saved"; what: string }
  | { state: "failed"; why: string };

/** A design under the hands of a person: what it is, as of when it is looked at, and what can be done to it. */
export interface DesignHands {
  design: DesignOut;
  canEdit: boolean;
  days: Days;
  /** The place of the as-of date among the design's days, and the date itself. */
  place: number;
  on: string;
  setPlace: (place: number) => void;
  /** The newest figures: of the trial that is under way, else of the design as saved. */
  consequences: Consequences | undefined;
  trial: { ladder: Ladder; reading: LadderReading; shelves: ShelfOfCopy[] } | null;
  tryLadder: (ladder: Ladder) => void;
  save: <L extends ListName>(
    list: L,
    key: string,
    value: EntryOf[L] | null,
    what: string,
  ) => Promise<boolean>;
  saveState: SaveState;
  undo: () => void;
  redo: () => void;
  undoWhat: string | null;
  redoWhat: string | null;
  setReference: () => void;
}

export const DesignContext = createContext<DesignHands | null>(null);

/** The design that is open. */
export function useDesign(): DesignHands {
  const hands = useContext(DesignContext);
  if (hands === null) throw new Error("useDesign outside of a design");
  return hands;
}

/** The name of a target by its id. */
export function useTargetName(): (id: string) => string {
  const { targets } = useDesign().design.document;
  return (id) => targets.find((target) => target.id === id)?.name || id;
}
