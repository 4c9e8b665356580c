/** The stations in the order of the work. Their keys are those of the whole house: what is not built yet has none here. */
export const STATIONS = [
  { key: "1", path: "/workloads", name: "Workloads", editing: true },
  { key: "2", path: "/targets", name: "Targets", editing: true },
  { key: "3", path: "/rules", name: "Rules", editing: true },
  { key: "4", path: "/routes", name: "Routes", editing: true },
  { key: "5", path: "/forecast", name: "Forecast", editing: false },
  { key: "6", path: "/proof", name: "Proof", editing: false },
] as const;

/** Whether a path is that of a station where rules are edited, with their consequences beside them. */
export function isEditing(pathname: string): boolean {
  return STATIONS.some((station) => station.editing && pathname.startsWith(station.path));
}
