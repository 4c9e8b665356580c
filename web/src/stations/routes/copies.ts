import type { Cadence, Copy, DesignDocument, Ladder, RoutePart, StepDown, Target } from "../../api/types";
import { WHOLE } from "../../api/types";
import { type Change, stockOf } from "../../design/changes";
import { freshId } from "../../shared/ids";

const NIGHTLY: Cadence = {
  id: "nightly",
  name: "Nightly, full on Saturdays",
  runs: [
    run("full", "Saturday full", "full", "FREQ=WEEKLY;BYDAY=SA", "20:00"),
    run("night", "Night", "incremental", "FREQ=DAILY", "22:00"),
  ],
};
const SNAPSHOTS: Cadence = {
  id: "snapshots",
  name: "Snapshots every four hours",
  runs: [
    {
      ...run("snap", "Every four hours", "snapshot", "FREQ=DAILY", "08:00"),
      at: ["00:00", "04:00", "08:00", "12:00", "16:00", "20:00"],
    },
  ],
};
const TWO_WEEKS: Ladder = {
  id: "two-weeks",
  name: "Two weeks",
  recent: [{ keep: "P14D" }],
  rungs: [],
  floor: 1,
};

function run(
  id: string,
  name: string,
  kind: Cadence["runs"][number]["kind"],
  rrule: string,
  at: string,
): Cadence["runs"][number] {
  return { id, name, kind, rrule, at: [at], except: [] };
}

/** The changes that put a new copy of a route on a target; what it needs and the design has not is added with it. */
export function withNewCopy(route: RoutePart, target: Target, design: DesignDocument): Change[] {
  const changes: Change[] = [];
  const source = route.copies[0];
  const follows = source !== undefined && target.media !== "snapshot";
  const ladder = source?.ladder ?? design.ladders[0]?.id ?? add(changes, "ladders", TWO_WEEKS);
  const copy: Copy = {
    ...EMPTY,
    id: freshId(target.id, route.copies),
    target: target.id,
    ladder,
    ...(follows ? { from: source.id } : { cadence: cadenceFor(target, design, changes) }),
  };
  changes.push({ part: "routes", key: route.id, value: { ...route, copies: [...route.copies, copy] } });
  return changes;
}

/** A new route that takes nothing yet, with its first copy on a target. */
export function newRoute(target: Target, design: DesignDocument): Change[] {
  const id = freshId("route", design.routes);
  const number = design.routes.length + 1;
  return withNewCopy(
    { id, name: `Route ${number}`, workloads: { ids: [], tags: [] }, copies: [] },
    target,
    design,
  );
}

const EMPTY: Copy = { id: "", name: "", target: "", sweep: "daily", lock: [], step_downs: [] };

function cadenceFor(target: Target, design: DesignDocument, changes: Change[]): string {
  const ofSnapshots = (cadence: Cadence) => cadence.runs.every((one) => one.kind === "snapshot");
  const wanted = target.media === "snapshot";
  const found = design.cadences.find((one) => ofSnapshots(one) === wanted);
  return found?.id ?? add(changes, "cadences", wanted ? SNAPSHOTS : NIGHTLY);
}

function add(changes: Change[], part: "ladders" | "cadences", value: Ladder & Cadence): string;
function add(changes: Change[], part: "ladders", value: Ladder): string;
function add(changes: Change[], part: "cadences", value: Cadence): string;
function add(changes: Change[], part: "ladders" | "cadences", value: Ladder | Cadence): string {
  changes.push({ part, key: value.id, value } as Change);
  return value.id;
}

/** The route with another copy in the place of one. */
export function withCopy(route: RoutePart, copy: Copy): RoutePart {
  return { ...route, copies: route.copies.map((one) => (one.id === copy.id ? copy : one)) };
}

/** The changes that take a copy out: what followed it follows its source; with no source the first takes its cadence over. */
export function withoutCopy(route: RoutePart, id: string, design: DesignDocument): Change[] {
  const gone = route.copies.find((copy) => copy.id === id);
  if (!gone) return [];
  if (route.copies.length === 1) return [];
  let heir = gone.from ?? null;
  const copies = route.copies.flatMap((copy) => {
    if (copy.id === id) return [];
    if (copy.from !== id) return [copy];
    if (heir !== null) return [{ ...copy, from: heir }];
    heir = copy.id;
    const { from: _from, take: _take, delay: _delay, ...own } = copy;
    return [{ ...own, cadence: copy.cadence ?? gone.cadence ?? null }];
  });
  const changes: Change[] = [{ part: "routes", key: route.id, value: { ...route, copies } }];
  const opening = (design.opening ?? []).filter((one) => !(one.route === route.id && one.copy === id));
  if (opening.length !== (design.opening ?? []).length)
    changes.push({ part: "stock", key: WHOLE, value: { ...stockOf(design), opening } });
  return changes;
}

/** A step-down to a target, as one begins. */
export function newStepDown(target: string): StepDown {
  return {
    after: "P6M",
    target,
    which: "rungs",
    as: "full",
    keep_source: false,
    skip_if_short: true,
    lock: [],
  };
}

/** The changes that say a full of each workload, taken before the design starts, is already there; null says that none is. */
export function seeded(
  route: RoutePart,
  copy: Copy,
  workloads: readonly string[],
  design: DesignDocument,
  taken: string | null,
): Change[] {
  const others = (design.opening ?? []).filter((one) => !(one.route === route.id && one.copy === copy.id));
  const first = workloads.map((workload) => ({
    route: route.id,
    copy: copy.id,
    workload,
    taken: taken ?? "",
    kind: "full" as const,
  }));
  const opening = taken !== null ? [...others, ...first] : others;
  return [{ part: "stock", key: WHOLE, value: { ...stockOf(design), opening } }];
}
