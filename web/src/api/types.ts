import type { components } from "./generated/schema";

type Schemas = components["schemas"];

export type Bar = Schemas["Bar"];
export type Cadence = Schemas["Cadence"];
export type CadenceReading = Schemas["CadenceReading"];
export type ConsequenceOut = Schemas["ConsequenceOut"];
export type Consequences = Schemas["Consequences"];
export type Days = Schemas["Day"];
export type DesignDocument = Schemas["Design"];
export type DesignOut = Schemas["DesignOut"];
export type EditOut = Schemas["EditOut"];
export type Ladder = Schemas["Ladder"];
export type LadderReading = Schemas["LadderReading"];
export type MonthSheet = Schemas["MonthSheet"];
export type Pattern = Schemas["Pattern"];
export type Readings = Schemas["Readings"];
export type Recent = Schemas["Recent"];
export type Run = Schemas["Run"];
export type Rung = Schemas["Rung"];
export type Series = Schemas["Series"];
export type SeriesOut = Schemas["SeriesOut"];
export type ShelfOfCopy = Schemas["ShelfOfCopy"];
export type ShelvesOut = Schemas["ShelvesOut"];
export type Site = Schemas["Site"];
export type Spine = Schemas["Spine"];
export type StaleProblem = Schemas["StaleProblem"];
export type Target = Schemas["Target"];
export type TrialOut = Schemas["TrialOut"];
export type Use = Schemas["Use"];
export type Workload = Schemas["Workload"];

export type Kind = Run["kind"];

/** The entries that can be edited in place, by the list of the document that they stand in. */
export interface EntryOf {
  ladders: Ladder;
  cadences: Cadence;
  workloads: Workload;
  targets: Target;
  sites: Site;
}

export type ListName = keyof EntryOf;
export type Entry = EntryOf[ListName];
