import { describe, expect, it } from "vitest";
import type { Copy, DesignDocument, RoutePart, Target } from "../src/api/types";
import { newRoute, seeded, withNewCopy, withoutCopy } from "../src/stations/routes/copies";

const DISK = { id: "disk", name: "Disk", media: "disk", site: "here" } as Target;
const SNAPS = { id: "snaps", media: "snapshot", site: "here" } as Target;
const EMPTY = {
  starts: "2027-01-01",
  cadences: [],
  ladders: [],
  routes: [],
  holds: [],
  opening: [],
} as unknown as DesignDocument;

function copy(id: string, more: Partial<Copy>): Copy {
  return {
    id,
    name: "",
    target: "disk",
    ladder: "rule",
    sweep: "daily",
    lock: [],
    step_downs: [],
    ...more,
  } as Copy;
}

function routeIn(change: { value: unknown } | undefined): RoutePart {
  return change?.value as RoutePart;
}

function route(...copies: Copy[]): RoutePart {
  return { id: "files", name: "", workloads: { ids: ["a"], tags: [] }, copies };
}

describe("a new copy", () => {
  it("brings the cadence and the ladder that an empty design lacks", () => {
    const changes = newRoute(DISK, EMPTY);
    expect(changes.map((one) => one.part)).toEqual(["ladders", "cadences", "routes"]);
    const made = changes.at(-1)?.value as RoutePart;
    expect(made.copies[0]).toMatchObject({
      target: "disk",
      ladder: changes[0]?.key,
      cadence: changes[1]?.key,
    });
  });

  it("follows the first copy and keeps by its ladder", () => {
    const changes = withNewCopy(route(copy("house", { cadence: "night" })), DISK, EMPTY);
    const made = changes.at(-1)?.value as RoutePart;
    expect(made.copies[1]).toMatchObject({ from: "house", ladder: "rule" });
  });

  it("takes snapshots of its own on snapshot space", () => {
    const changes = withNewCopy(route(copy("house", { cadence: "night" })), SNAPS, EMPTY);
    const cadence = changes[0]?.value as { runs: { kind: string }[] };
    expect(cadence.runs.map((run) => run.kind)).toEqual(["snapshot"]);
  });
});

describe("taking a copy out", () => {
  const chain = route(
    copy("a", { cadence: "night" }),
    copy("b", { from: "a", delay: "P1D" }),
    copy("c", { from: "b" }),
  );

  it("lets its followers follow its source", () => {
    const [change] = withoutCopy(chain, "b", EMPTY);
    expect(routeIn(change).copies.map((one) => [one.id, one.from])).toEqual([
      ["a", undefined],
      ["c", "a"],
    ]);
  });

  it("hands the cadence of the first to its follower", () => {
    const [change] = withoutCopy(chain, "a", EMPTY);
    const copies = routeIn(change).copies;
    expect(copies[0]).toMatchObject({ id: "b", cadence: "night" });
    expect(copies[0]).not.toHaveProperty("delay");
    expect(copies[1]?.from).toBe("b");
  });

  it("takes its opening stock out with it, and leaves the last copy", () => {
    const design = {
      ...EMPTY,
      opening: [{ route: "files", copy: "b", workload: "a", taken: "", kind: "full" }],
    } as unknown as DesignDocument;
    expect(withoutCopy(chain, "b", design).map((one) => one.part)).toEqual(["routes", "stock"]);
    expect(withoutCopy(route(copy("a", { cadence: "night" })), "a", EMPTY)).toEqual([]);
  });
});

it("a seeded copy begins with a full of each workload", () => {
  const one = copy("house", { cadence: "night" });
  const [change] = seeded(route(one), one, ["a", "b"], EMPTY, "2026-12-31T23:59");
  expect(change?.value).toMatchObject({ opening: [{ workload: "a" }, { workload: "b" }] });
});
