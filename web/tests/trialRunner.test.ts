import { describe, expect, it } from "vitest";
import type { Consequences, LadderReading, ShelfOfCopy, Verdicts } from "../src/api/types";
import type { Change } from "../src/design/changes";
import { TrialRunner, type Tried } from "../src/design/TrialRunner";
import { houseRule } from "./house";

interface Asked {
  changes: Change[];
  on: string;
  answer: () => void;
  refuse: () => void;
}

const site = (name: string): Change => ({ part: "sites", key: "here", value: { id: "here", name } });
const ladder = (id: string): Change => ({
  part: "ladders",
  key: id,
  value: { ...houseRule({ name: "yearly", keep: "P7Y" }), id },
});
const rule = (): Change => {
  const value = houseRule({ name: "yearly", keep: "P7Y" });
  return { part: "ladders", key: value.id, value };
};

/** Figures that say which changes they are of. */
const figuresOf = (changes: Change[]) => ({ of: changes }) as unknown as Consequences;
const READING = { sentence: "what is kept" } as LadderReading;
const SHELVES = [{ copy: "disk" }] as unknown as ShelfOfCopy[];

/** A runner before a server that answers when the test lets it. */
function world() {
  const date = { on: "2028-12-31" };
  const figures: Asked[] = [];
  const shelves: Asked[] = [];
  const duties: Asked[] = [];
  const later: (() => void)[] = [];
  const moment = { passes: Promise.resolve() };
  const asking =
    <T>(list: Asked[], made: (changes: Change[]) => T) =>
    (changes: Change[], on: string) =>
      new Promise<T>((answer, refuse) => {
        list.push({
          changes,
          on,
          answer: () => answer(made(changes)),
          refuse: () => refuse(new Error("no")),
        });
      });
  const tried = (changes: Change[]): Tried => ({
    consequences: figuresOf(changes),
    reading: changes.some((one) => one.part === "ladders") ? READING : null,
  });
  const runner = new TrialRunner({
    on: () => date.on,
    askFigures: asking(figures, tried),
    askDuties: asking(duties, (changes) => ({ of: changes }) as unknown as Verdicts),
    askShelves: asking(shelves, () => SHELVES),
    aMoment: () => moment.passes,
    later: (show) => void later.push(show),
  });
  const settle = async () => {
    for (let turn = 0; turn < 10; turn += 1) await Promise.resolve();
    for (const show of later.splice(0)) show();
  };
  return { runner, date, figures, shelves, duties, moment, settle, shown: () => runner.snapshot() };
}

const last = <T>(list: T[]): T => list[list.length - 1] as T;

describe("a trial", () => {
  it("shows the figures of what is under the hand, and is over with no change", async () => {
    const { runner, figures, settle, shown } = world();
    runner.tryOut([site("one")]);
    expect(shown()).toEqual({ consequences: null, duties: null, trial: null });
    last(figures).answer();
    await settle();
    expect(shown().consequences).toEqual(figuresOf([site("one")]));
    runner.tryOut([]);
    expect(shown()).toEqual({ consequences: null, duties: null, trial: null });
  });

  it("asks for duties with the figures, and lets words follow them, but not for long", async () => {
    const { runner, figures, duties, moment, settle, shown } = world();
    let pass = () => {};
    moment.passes = new Promise((resolve) => {
      pass = resolve;
    });
    runner.tryOut([ladder("weekly")]);
    expect([figures.length, duties.length]).toEqual([1, 1]);
    last(figures).answer();
    await settle();
    expect(shown().consequences).not.toBeNull();
    expect(shown().trial).toBeNull();
    last(duties).answer();
    await settle();
    expect(shown().trial?.reading).toBe(READING);
    // With duties that take long the words come all the same.
    runner.tryOut([ladder("monthly")]);
    last(figures).answer();
    await settle();
    expect(shown().trial?.ladder.id).toBe("weekly");
    pass();
    await settle();
    expect(shown().trial?.ladder.id).toBe("monthly");
  });

  it("asks one thing at a time, and of what waits the newest alone", async () => {
    const { runner, figures, settle, shown } = world();
    for (const name of ["one", "two", "three"]) runner.tryOut([site(name)]);
    expect(figures).toHaveLength(1);
    last(figures).answer();
    await settle();
    expect(figures.map((one) => one.changes)).toEqual([[site("one")], [site("three")]]);
    last(figures).answer();
    await settle();
    expect(shown().consequences).toEqual(figuresOf([site("three")]));
  });

  it("forgets an answer that comes when the trial is over", async () => {
    const { runner, figures, settle, shown } = world();
    runner.tryOut([site("one")]);
    runner.end();
    last(figures).answer();
    await settle();
    expect(shown().consequences).toBeNull();
  });

  it("forgets an answer for a date that is no longer looked at", async () => {
    const { runner, date, figures, settle, shown } = world();
    runner.tryOut([site("one")]);
    date.on = "2030-01-01";
    last(figures).answer();
    await settle();
    expect(shown().consequences).toBeNull();
    runner.tryOut([site("two")]);
    expect(last(figures).on).toBe("2030-01-01");
  });

  it("goes back to what is saved when the newest is refused, and only then", async () => {
    const { runner, figures, settle, shown } = world();
    runner.tryOut([site("one")]);
    last(figures).answer();
    await settle();
    runner.tryOut([site("half")]);
    runner.tryOut([site("whole")]);
    last(figures).refuse();
    await settle();
    expect(shown().consequences).toEqual(figuresOf([site("one")]));
    last(figures).refuse();
    await settle();
    expect(shown().consequences).toBeNull();
  });

  it("adds the words of a ladder after its figures, and its shelves after the duties", async () => {
    const { runner, figures, duties, shelves, settle, shown } = world();
    runner.tryOut([rule()]);
    last(figures).answer();
    await settle();
    expect(shown().trial).toMatchObject({ reading: READING, shelves: null });
    expect(shelves).toEqual([]);
    last(duties).answer();
    await settle();
    last(shelves).answer();
    await settle();
    expect(shown().trial?.shelves).toEqual(SHELVES);
  });

  it("does not show shelves of what has been followed by another trial", async () => {
    const { runner, figures, duties, shelves, settle, shown } = world();
    runner.tryOut([rule()]);
    last(figures).answer();
    await settle();
    last(duties).answer();
    await settle();
    runner.tryOut([rule()]);
    last(shelves).answer();
    await settle();
    expect(shown().trial?.shelves).toBeNull();
  });

  it("shows the duties of the newest trial alone, whichever answer comes last", async () => {
    const { runner, figures, duties, settle, shown } = world();
    runner.tryOut([site("one")]);
    last(figures).answer();
    await settle();
    runner.tryOut([site("two")]);
    last(figures).answer();
    await settle();
    const [older, newer] = duties;
    newer?.answer();
    await settle();
    older?.answer();
    await settle();
    expect(shown().duties).toEqual({ of: [site("two")] });
  });

  it("asks for no shelves once something newer is tried", async () => {
    const { runner, figures, duties, shelves, settle } = world();
    runner.tryOut([rule()]);
    last(figures).answer();
    await settle();
    runner.tryOut([rule()]);
    duties[0]?.answer();
    await settle();
    expect(shelves).toEqual([]);
  });

  it("asks for the duties before the figures are shown", async () => {
    const { runner, figures, duties, shown, settle } = world();
    const seen: (Consequences | null)[] = [];
    runner.tryOut([site("one")]);
    runner.subscribe(() => seen.push(shown().consequences));
    last(figures).answer();
    while (duties.length === 0) await Promise.resolve();
    expect(seen).toEqual([]);
    await settle();
    expect(seen).toEqual([figuresOf([site("one")])]);
  });

  it("is settled when nothing is under way", async () => {
    const { runner, figures, settle } = world();
    let settled = false;
    runner.tryOut([site("one")]);
    void runner.settled().then(() => {
      settled = true;
    });
    await settle();
    expect(settled).toBe(false);
    last(figures).answer();
    await settle();
    expect(settled).toBe(true);
  });
});
