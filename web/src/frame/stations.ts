/** A view of a station: its address, its name, and whether the address is its own alone. */
export interface View {
  path: string;
  name: string;
  end: boolean;
}

export const RULE_VIEWS: readonly View[] = [
  { path: "/rules/ladders", name: "Ladders", end: false },
  { path: "/rules/cadences", name: "Cadences", end: false },
  { path: "/rules/holds", name: "Holds", end: false },
];

export const FORECAST_VIEWS: readonly View[] = [
  { path: "/forecast", name: "All targets", end: true },
  { path: "/forecast/target", name: "One target", end: false },
  { path: "/forecast/points", name: "Points", end: false },
  { path: "/forecast/cost", name: "Cost", end: false },
  { path: "/forecast/nights", name: "Nights", end: false },
  { path: "/forecast/unknown", name: "What is not known", end: false },
  { path: "/forecast/beside", name: "Beside another", end: false },
];

export const PROOF_VIEWS: readonly View[] = [
  { path: "/proof", name: "Duties", end: true },
  { path: "/proof/losses", name: "Losses", end: false },
  { path: "/proof/plans", name: "Plans of recovery", end: false },
  { path: "/proof/findings", name: "Findings", end: false },
];

const NONE: readonly View[] = [];

/** The stations in the order of the work. Their keys are those of the whole house: what is not built yet has none here. */
export const STATIONS = [
  { key: "1", path: "/workloads", name: "Workloads", editing: true, views: NONE },
  { key: "2", path: "/targets", name: "Targets", editing: true, views: NONE },
  { key: "3", path: "/rules", name: "Rules", editing: true, views: RULE_VIEWS },
  { key: "4", path: "/routes", name: "Routes", editing: true, views: NONE },
  { key: "5", path: "/forecast", name: "Forecast", editing: false, views: FORECAST_VIEWS },
  { key: "6", path: "/proof", name: "Proof", editing: false, views: PROOF_VIEWS },
] as const;

/** Whether a path is that of a station where rules are edited, with their consequences beside them. */
export function isEditing(pathname: string): boolean {
  return STATIONS.some((station) => station.editing && pathname.startsWith(station.path));
}
