import { staleProblem } from "../api/client";
import type { Command, EditOut, StepsOut } from "../api/types";
import { type Cells, type Change, changesBack, nameOf, withMade, withWanted } from "./changes";
import type { EditPorts, EditState, Made, Seen } from "./editing";
import { Sending, wordsOf } from "./Sending";
import { Steps } from "./Steps";

/** Saves edits one after another, each with the versions it was made on, and keeps what undo needs.
 *
 * What is edited is shown at once. What cannot get through now is kept, and sent again until it does. What the server
 * refuses is taken back, and what was edited since stays shown. */
export class EditQueue {
  private line: Promise<unknown> = Promise.resolve();
  // The versions that this page's own edits led to: undo takes back these and nobody else's.
  private readonly mine = new Map<string, number>();
  // Edits that are not answered yet, in their order: what is edited meanwhile must not take them back.
  private pending: Change[][] = [];
  private hasBegun = false;
  private readonly steps = new Steps();
  private listeners = new Set<() => void>();
  private state: EditState = {
    saveState: { state: "idle" },
    conflict: null,
    undoWhat: null,
    redoWhat: null,
  };
  private refusal = "";

  private readonly sending: Sending;

  constructor(private readonly ports: EditPorts) {
    this.sending = new Sending(ports, (saveState) => this.set({ saveState }));
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): EditState => this.state;

  /** Why the last edit that was refused was so. */
  whyRefused = (): string => this.refusal;

  /** Makes changes at once; false when they were refused. */
  edit = (changes: Change[], what: string, seen: Seen = this.asShown): Promise<boolean> => {
    this.pending = [...this.pending, changes];
    this.ports.show((before) => withWanted(before, changes));
    return this.inLine(async () => {
      await this.ports.settled();
      const answer = await this.send(changes, what, `Saved: ${what}`, seen);
      return this.remember(answer, what);
    });
  };

  /** Makes changes of what was typed into cells; null when they were made, else why not. Nothing is shown before. */
  type = (cells: Cells[], what: string): Promise<string | null> =>
    this.inLine(async () => {
      await this.ports.settled();
      try {
        const answer = await this.post(cells, what, this.asShown);
        this.take(answer, [], `Saved: ${what}`);
        this.remember(answer, what);
        return null;
      } catch (error) {
        const why = wordsOf(error);
        this.set({ saveState: { state: "failed", why } });
        if (staleProblem(error)) await this.ports.fetchAnew();
        return why;
      }
    });

  /** Makes all the changes that one act takes, as the server knows them, and says which; null when it was refused. */
  command = (command: Command, what: string, seen: Seen = this.asShown): Promise<Made[] | null> =>
    this.inLine(async () => {
      await this.ports.settled();
      try {
        const answer = await this.sending.command(command, what, seen);
        this.take(answer, [], `Saved: ${what}`);
        this.remember(answer, what);
        return answer.made;
      } catch (error) {
        await this.refuse(error, what, (later) => void this.command(command, what, later));
        return null;
      }
    });

  undo = (): void => this.move(true);

  redo = (): void => this.move(false);

  /** Takes up what one did before, on this page or another; nothing where something has been done here meanwhile. */
  takeUp = (before: StepsOut): void => {
    if (this.hasBegun) return;
    this.hasBegun = true;
    for (const step of this.steps.takeUp(before))
      for (const one of step.made) this.mine.set(nameOf(one.part, one.key), one.version);
    this.set({});
  };

  /** Ends a conflict: with what somebody else made, or with this page's own edit put in its place. */
  settle = (keepMine: boolean): void => {
    const open = this.state.conflict;
    this.set({ conflict: null, saveState: { state: "idle" } });
    if (!open || !keepMine) return;
    const entries = open.problem.entries ?? [];
    const versions = new Map(entries.map((one) => [nameOf(one.part, one.key), one.version ?? null]));
    open.again((part, key) => versions.get(nameOf(part, key)) ?? this.asShown(part, key));
  };

  private readonly asShown: Seen = (part, key) => this.ports.design()?.versions[part]?.[key] ?? null;

  private move(back: boolean): void {
    const step = this.steps.take(back);
    if (!step) return;
    this.set({});
    void this.inLine(async () => {
      const isThere = new Map(step.made.map((one) => [nameOf(one.part, one.key), one.after !== null]));
      const seen: Seen = (part, key) => {
        const name = nameOf(part, key);
        return isThere.get(name) ? (this.mine.get(name) ?? null) : null;
      };
      const said = `${back ? "Undone" : "Redone"}: ${step.what}`;
      const answer = await this.send(changesBack(step.made), said, said, seen, step.revision);
      if (answer !== null)
        this.steps.moved(back, { revision: answer.revision, made: answer.made, what: step.what });
      this.set({});
    });
  }

  private async send(
    changes: Change[],
    what: string,
    said: string,
    seen: Seen,
    undoes: number | null = null,
  ): Promise<EditOut | null> {
    try {
      const answer = await this.post(changes, what, seen, undoes);
      this.take(answer, changes, said);
      return answer;
    } catch (error) {
      this.pending = this.pending.filter((one) => one !== changes);
      await this.refuse(error, what, (later) => void this.edit(changes, what, later));
      return null;
    }
  }

  private post(changes: (Change | Cells)[], what: string, seen: Seen, undoes: number | null = null) {
    this.hasBegun = true;
    return this.sending.changes(changes, what, seen, undoes);
  }

  private take(answer: EditOut, sent: Change[], said: string): void {
    for (const one of answer.made) this.mine.set(nameOf(one.part, one.key), one.version);
    this.pending = this.pending.filter((one) => one !== sent);
    this.ports.show((before) =>
      this.pending.reduce(withWanted, withMade(before, answer.made, answer.revision, sent)),
    );
    this.ports.keep(answer);
    this.set({ saveState: { state: "saved", what: said } });
  }

  private async refuse(error: unknown, what: string, again: (seen: Seen) => void): Promise<void> {
    const problem = staleProblem(error);
    this.refusal = wordsOf(error);
    this.set({
      saveState: { state: "failed", why: this.refusal },
      ...(problem ? { conflict: { problem, what, again } } : {}),
    });
    await this.ports.fetchAnew();
    this.ports.show((before) => this.pending.reduce(withWanted, before));
  }

  private remember(answer: EditOut | null, what: string): boolean {
    if (answer === null) return false;
    this.steps.remember({ revision: answer.revision, made: answer.made, what });
    this.set({});
    return true;
  }

  private inLine<T>(work: () => Promise<T>): Promise<T> {
    const next = this.line.then(work);
    this.line = next.catch(() => null);
    return next;
  }

  private set(more: Partial<EditState>): void {
    this.state = { ...this.state, ...this.steps.words(), ...more };
    for (const listener of this.listeners) listener();
  }
}
