import { ProblemError } from "../api/client";
import type { Command, DesignOut, EditOut } from "../api/types";
import { isWorthWaitingFor } from "../api/waiting";
import { type Cells, type Change, entryOf, toSend } from "./changes";
import type { EditPorts, EditState, Seen } from "./editing";

const LONGEST_WORDS = 300;

/** Puts edits to the server, each with the versions it was made on; what cannot get through now is put again until it does. */
export class Sending {
  constructor(
    private readonly ports: EditPorts,
    /** Told how far it is. */
    private readonly tell: (saveState: EditState["saveState"]) => void,
  ) {}

  /** Changes of entries or of what was typed into cells; `undoes` is the revision that they take back. */
  changes(changes: (Change | Cells)[], what: string, seen: Seen, undoes: number | null): Promise<EditOut> {
    const body = changes.map((one) => {
      const { part, key } = entryOf(one);
      return toSend(one, seen(part, key));
    });
    const on = this.ports.on();
    return this.through(() => this.ports.postChanges(body, on, shortened(what), undoes));
  }

  /** An act whose changes the server works out. */
  command(command: Command, what: string, seen: Seen): Promise<EditOut> {
    return this.through(() =>
      this.ports.postCommand(command, this.versions(seen), this.ports.on(), shortened(what)),
    );
  }

  private versions(seen: Seen): DesignOut["versions"] {
    const shown = this.ports.design()?.versions ?? {};
    const known = Object.entries(shown).map(([part, of]) => [
      part,
      Object.fromEntries(Object.keys(of).map((key) => [key, seen(part, key) ?? 0])),
    ]);
    return Object.fromEntries(known);
  }

  /** Asks until there is an answer: what cannot get through is asked again. */
  private async through(ask: () => Promise<EditOut>): Promise<EditOut> {
    this.tell({ state: "saving" });
    for (;;) {
      try {
        return await ask();
      } catch (error) {
        if (!isWorthWaitingFor(error)) throw error;
        this.tell({ state: "waiting", why: wordsOf(error) });
        await this.ports.nextTry();
      }
    }
  }
}

function shortened(what: string): string {
  return what.slice(0, LONGEST_WORDS);
}

/** Why something went wrong, for people. */
export function wordsOf(error: unknown): string {
  return error instanceof ProblemError ? error.words : "Something went wrong in this page";
}
