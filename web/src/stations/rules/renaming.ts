import type { Copy, DesignDocument, Ladder, Lock, RoutePart } from "../../api/types";
import type { Change } from "../../design/changes";

/** The changes that give a rung another name, wherever it is named: in its ladder, in locks, step-downs and takes. */
export function withRenamedRung(
  design: DesignDocument,
  ladder: Ladder,
  place: number,
  name: string,
): Change[] {
  const before = ladder.rungs[place]?.name;
  if (before === undefined) return [];
  const other = (one: string) => (one === before ? name : one);
  const rungs = ladder.rungs.map((rung, at) => ({
    ...rung,
    name: at === place ? name : rung.name,
    ...(rung.from === undefined ? {} : { from: other(rung.from) }),
  }));
  const routes = design.routes.flatMap((route): Change[] => {
    const value = renamedIn(route, ladder.id, other);
    return JSON.stringify(value) === JSON.stringify(route) ? [] : [{ part: "routes", key: route.id, value }];
  });
  return [{ part: "ladders", key: ladder.id, value: { ...ladder, rungs } }, ...routes];
}

function renamedIn(route: RoutePart, ladder: string, other: (name: string) => string): RoutePart {
  const keepsByIt = new Set(route.copies.filter((copy) => copy.ladder === ladder).map((copy) => copy.id));
  const copies = route.copies.map((copy): Copy => {
    const own = keepsByIt.has(copy.id) ? renamedOf(copy, other) : copy;
    const { take } = own;
    const names =
      take && take !== "all" && "rungs" in take && keepsByIt.has(own.from ?? "") ? take.rungs : null;
    return names ? { ...own, take: { rungs: names.map(other) } } : own;
  });
  return { ...route, copies };
}

function renamedOf(copy: Copy, other: (name: string) => string): Copy {
  const lock = (one: Lock): Lock => (one.rungs ? { ...one, rungs: one.rungs.map(other) } : one);
  return {
    ...copy,
    lock: (copy.lock ?? []).map(lock),
    step_downs: (copy.step_downs ?? []).map((step) => ({
      ...step,
      which: Array.isArray(step.which) ? step.which.map(other) : step.which,
      lock: (step.lock ?? []).map(lock),
    })),
  };
}
