import type { StepsOut } from "../api/types";
import type { Made } from "./editing";

/** What was done at once, or taken back at once: by the revision that it led to it is known to the server. */
export interface Step {
  revision: number;
  made: Made[];
  what: string;
}

/** What this person did and can take back, and what they took back and can do again, the latest last. */
export class Steps {
  private done: Step[] = [];
  private undone: Step[] = [];

  /** What stands here from before, on this page or another. */
  takeUp({ done, undone }: StepsOut): Step[] {
    this.done = done;
    this.undone = undone;
    return [...done, ...undone];
  }

  /** Something new was done: what was taken back before it cannot be done again. */
  remember(step: Step): void {
    this.done.push(step);
    this.undone = [];
  }

  /** The step that comes next, back or forth, taken out; undefined where there is none. */
  take(back: boolean): Step | undefined {
    return (back ? this.done : this.undone).pop();
  }

  /** A step that was taken back can be done again, and one that was done again can be taken back. */
  moved(back: boolean, step: Step): void {
    (back ? this.undone : this.done).push(step);
  }

  words(): { undoWhat: string | null; redoWhat: string | null } {
    return { undoWhat: this.done.at(-1)?.what ?? null, redoWhat: this.undone.at(-1)?.what ?? null };
  }
}
