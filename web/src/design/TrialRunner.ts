import type { Consequences, Ladder, LadderReading, ShelfOfCopy, Verdicts } from "../api/types";
import type { Change } from "./changes";
import type { Trial } from "./context";

/** What the server says of changes that are tried. */
export interface Tried {
  consequences: Consequences;
  reading: LadderReading | null;
}

/** Everything that a trial needs of the world around it. */
export interface TrialPorts {
  /** The as-of date. */
  on: () => string;
  askFigures: (changes: Change[], on: string) => Promise<Tried>;
  askDuties: (changes: Change[], on: string) => Promise<Verdicts | null>;
  askShelves: (changes: Change[], on: string) => Promise<ShelfOfCopy[]>;
  /** Comes back after a moment that nobody notices. */
  aMoment: () => Promise<void>;
  /** Shows what may come a little later than the figures. */
  later: (show: () => void) => void;
}

/** What is seen of a trial; another object after every change. */
export interface TrialState {
  consequences: Consequences | null;
  duties: Verdicts | null;
  trial: Trial | null;
}

const NOTHING: TrialState = { consequences: null, duties: null, trial: null };

/**
 * Tries changes through the whole engine without saving them: one request is under way at a time and only the newest
 * changes wait, so an older answer never replaces a newer one. The figures are shown first; the words and the shelves of a
 * ladder follow.
 */
export class TrialRunner {
  private state = NOTHING;
  private readonly listeners = new Set<() => void>();
  private waiting: Change[] | null = null;
  private underWay = false;
  private running: Promise<void> = Promise.resolve();
  /** Counts how often a trial ended: an answer of one before is for nobody. */
  private round = 0;
  private dutiesAsked = 0;
  /** The ladder whose figures were shown last: words of one before it are for nobody. */
  private newest: Ladder | null = null;

  constructor(private readonly ports: TrialPorts) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  snapshot = () => this.state;

  /** With no change at all the trial is over. */
  tryOut = (changes: Change[]) => {
    if (changes.length === 0) return this.end();
    this.waiting = changes;
    if (!this.underWay) this.running = this.run();
  };

  /** Nothing is tried any more; what is under way is not shown. */
  end = () => {
    this.round += 1;
    this.waiting = null;
    this.show(NOTHING);
  };

  /** Comes back when no trial is under way: its figures are shown, and the server is free. */
  settled = () => this.running;

  private async run(): Promise<void> {
    this.underWay = true;
    for (let next = this.next(); next !== null; next = this.next()) await this.tryOne(next);
    this.underWay = false;
  }

  private next(): Change[] | null {
    const changes = this.waiting;
    this.waiting = null;
    return changes;
  }

  private async tryOne(changes: Change[]): Promise<void> {
    const { round } = this;
    const on = this.ports.on();
    // What is half typed may be refused; then nothing is tried, and the figures are the saved ones.
    const figures = this.ports.askFigures(changes, on).catch(() => null);
    // The duties wait at the server until it has the figures: between the two it has nothing to wait for.
    const judged = this.addDuties(changes, on, round);
    const answer = await figures;
    if (round !== this.round || on !== this.ports.on()) return;
    if (answer === null) {
      if (this.waiting === null) this.end();
      return;
    }
    this.show({ ...this.state, consequences: answer.consequences });
    const ladder = firstLadder(changes);
    this.newest = ladder;
    if (ladder === null || answer.reading === null) return;
    // Words take as long to draw as duties to judge: they let these go first, if they do not take too long.
    const words = { ladder, reading: answer.reading };
    void Promise.race([judged, this.ports.aMoment()]).then(() => this.showWords(words, round));
    void judged.then(() => this.addShelves(changes, on, round));
  }

  private showWords(words: Pick<Trial, "ladder" | "reading">, round: number) {
    this.ports.later(() => {
      if (round !== this.round || words.ladder !== this.newest) return;
      this.show({ ...this.state, trial: { ...words, shelves: this.state.trial?.shelves ?? null } });
    });
  }

  private async addDuties(changes: Change[], on: string, round: number): Promise<void> {
    this.dutiesAsked += 1;
    const asked = this.dutiesAsked;
    const duties = await this.ports.askDuties(changes, on).catch(() => null);
    // An answer of an older trial is for nobody once a newer one was asked for.
    if (duties !== null && round === this.round && asked === this.dutiesAsked)
      this.show({ ...this.state, duties });
  }

  private async addShelves(changes: Change[], on: string, round: number): Promise<void> {
    if (round !== this.round || this.waiting !== null || this.underWay) return;
    const shelves = await this.ports.askShelves(changes, on).catch(() => null);
    if (shelves === null) return;
    const isNewest = round === this.round && this.waiting === null && !this.underWay;
    if (!isNewest) return;
    this.ports.later(() => {
      const { trial } = this.state;
      if (round === this.round && trial) this.show({ ...this.state, trial: { ...trial, shelves } });
    });
  }

  private show(state: TrialState) {
    if (state === this.state) return;
    this.state = state;
    for (const listener of this.listeners) listener();
  }
}

function firstLadder(changes: readonly Change[]): Ladder | null {
  for (const change of changes) if (change.part === "ladders" && change.value) return change.value;
  return null;
}
