import type { components } from "./generated/schema";

type Schemas = components["schemas"];

export type AnyChange = Schemas["Trial"]["changes"][number];
export type Bar = Schemas["Bar"];
export type Cadence = Schemas["Cadence"];
export type CadenceReading = Schemas["CadenceReading"];
export type CalendarRead = Schemas["CalendarRead"];
export type ConsequenceOut = Schemas["ConsequenceOut"];
export type Command = Schemas["CommandIn"]["command"];
export type Consequences = Schemas["Consequences"];
export type Copy = Schemas["Copy"];
export type Days = Schemas["Day"];
export type DesignDocument = Schemas["Design"];
export type DesignLine = Schemas["DesignLine"];
export type DesignOut = Schemas["DesignOut"];
export type EditOut = Schemas["EditOut"];
export type Effect = Schemas["Effect"];
export type Finding = Schemas["Finding"];
export type Fit = Schemas["Fit"];
export type HistoryStep = Schemas["HistoryStep"];
export type Ladder = Schemas["Ladder"];
export type LadderReading = Schemas["LadderReading"];
export type Lock = Schemas["Lock"];
export type MentionsOut = Schemas["MentionsOut"];
export type MonthSheet = Schemas["MonthSheet"];
export type Opening = Schemas["Opening"];
export type Pattern = Schemas["Pattern"];
export type PointRow = Schemas["PointRow"];
export type Prices = Schemas["Prices"];
export type Protection = Schemas["Protection"];
export type Readings = Schemas["Readings"];
export type Recent = Schemas["Recent"];
export type Rotation = Schemas["Rotation"];
export type RouteReading = Schemas["RouteReading"];
export type RoutesOut = Schemas["RoutesOut"];
export type Run = Schemas["Run"];
export type Rung = Schemas["Rung"];
export type Series = Schemas["Series"];
export type SeriesOut = Schemas["SeriesOut"];
export type Settings = Schemas["Settings"];
export type ShelfOfCopy = Schemas["ShelfOfCopy"];
export type ShelvesOut = Schemas["ShelvesOut"];
export type Site = Schemas["Site"];
export type Link = Schemas["Link"];
export type LinkReading = Schemas["LinkReading"];
export type Sizing = Schemas["Sizing"];
export type SplitSeries = Schemas["SplitSeries"];
export type By = SplitSeries["by"];
export type SpineRow = Schemas["SpineRow"];
export type Spine = Schemas["Spine"];
export type StaleEntry = Schemas["StaleEntryOut"];
export type StaleProblem = Schemas["StaleProblem"];
export type StartingPoints = Schemas["StartingPoints"];
export type StepDown = Schemas["StepDown"];
export type Stock = Schemas["Stock"];
export type Target = Schemas["Target"];
export type TrialOut = Schemas["TrialOut"];
export type Use = Schemas["UseOut"];
export type Window = Schemas["Window"];
export type Band = Schemas["Band"];
export type Bands = Schemas["Bands"];
export type CostOut = Schemas["CostOut"];
export type DetailSeries = Schemas["DetailSeries"];
export type Explanation = Schemas["Explanation"];
export type Longer = Schemas["Longer"];
export type Marginal = Schemas["Marginal"];
export type Overview = Schemas["Overview"];
export type OverviewOut = Schemas["OverviewOut"];
export type OverviewRow = Schemas["OverviewRow"];
export type Swing = Schemas["Swing"];
export type TargetCost = Schemas["TargetCostOut"];
export type Unknown = Schemas["Unknown"];
export type NightPicture = Schemas["NightPicture"];
export type NightBundle = Schemas["Bundle"];
export type CopyEnd = Schemas["CopyEnd"];
export type NightBar = Schemas["NightBar"];
export type YearsOfNights = Schemas["YearsOfNights"];
export type CopyNights = Schemas["CopyNights"];
export type JobIn = Schemas["JobIn"];
export type JobOut = Schemas["JobOut"];
export type Workload = Schemas["Workload"];
export type WorkloadRowsOut = Schemas["WorkloadRowsOut"];

/** A route as the document has it. */
export type RoutePart = Schemas["Route"];
export type Kind = Run["kind"];

/** What can be edited, by the part of the document that it stands in. Settings and stock are one entry each. */
export interface EntryOf {
  settings: Settings;
  sites: Site;
  links: Link;
  targets: Target;
  workloads: Workload;
  cadences: Cadence;
  ladders: Ladder;
  routes: RoutePart;
  stock: Stock;
}

export type PartName = keyof EntryOf;
export type ListName = Exclude<PartName, "settings" | "stock">;
export type Entry = EntryOf[PartName];

/** The key of a part that is one entry. */
export const WHOLE = "design";
export type MonthOut = Schemas["MonthOut"];
export type DocumentRead = Schemas["DocumentRead"];
export type TokenLine = Schemas["TokenLine"];
export type TokenMade = Schemas["TokenMade"];
