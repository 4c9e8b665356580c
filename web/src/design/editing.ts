import type { AnyChange, Command, DesignOut, EditOut, StaleProblem } from "../api/types";

/** How the last edit stands. */
export type SaveState =
  | { state: "idle" }
  | { state: "saving" }
  | { state: "waiting"; why: string }
  | { state: "saved"; what: string }
  | { state: "failed"; why: string };

/** Whether the page shows more than the server has: what is asked of the server then may name what it does not know. */
export const isUnderWay = ({ state }: SaveState) => state === "saving" || state === "waiting";

/** The versions of entries that an edit was made on. */
export type Seen = (part: string, key: string) => number | null;

/** An edit that came too late: what the server says of the entries now, and how to make it all the same. */
export interface Conflict {
  problem: StaleProblem;
  what: string;
  again: (seen: Seen) => void;
}

export type Made = EditOut["made"][number];

/** Everything that the queue needs of the world around it. */
export interface EditPorts {
  /** The design as the page shows it. */
  design: () => DesignOut | undefined;
  show: (change: (before: DesignOut) => DesignOut) => void;
  fetchAnew: () => Promise<void>;
  /** Takes note of what an edit comes to. */
  keep: (answer: EditOut) => void;
  /** The as-of date. */
  on: () => string;
  /** Until nothing is tried out any more. */
  settled: () => Promise<void>;
  postChanges: (changes: AnyChange[], on: string, what: string, undoes: number | null) => Promise<EditOut>;
  postCommand: (command: Command, seen: DesignOut["versions"], on: string, what: string) => Promise<EditOut>;
  /** Until it is worth trying again what could not get through. */
  nextTry: () => Promise<void>;
}

/** What is seen of the queue; another object after every change. */
export interface EditState {
  saveState: SaveState;
  conflict: Conflict | null;
  undoWhat: string | null;
  redoWhat: string | null;
}
