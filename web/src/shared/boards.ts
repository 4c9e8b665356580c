import type { ShelfOfCopy, Spine } from "../api/types";
import { type Ages, WHOLE_AXIS, xOf } from "./ages";

/** The spines of one copy on a target, of all groups of its workloads. */
export interface BoardOfCopy {
  name: string;
  route: string;
  copy: string;
  spines: Spine[];
}

/** Spines of one look that stand in the same place: one of them, or a bundle. */
export interface Bundle {
  x: number;
  spines: Spine[];
}

/** As many spines as can be told apart beside each other on one board. */
const LOOSE = 250;
const CLOSE_PIXELS = 4;

export function byCopy(shelves: ShelfOfCopy[]): BoardOfCopy[] {
  const boards = new Map<string, BoardOfCopy>();
  for (const shelf of shelves) {
    const name = `${shelf.route}/${shelf.copy}`;
    const board = boards.get(name) ?? { name, route: shelf.route, copy: shelf.copy, spines: [] };
    board.spines = [...board.spines, ...shelf.spines];
    boards.set(name, board);
  }
  return [...boards.values()];
}

/**
 * The spines in sight, those of a full board put together where they are alike and stand within a few pixels: what is
 * drawn is then bounded by the width of the board, however many points there are.
 */
export function bundled(spines: Spine[], ages: Ages, width: number): Bundle[] {
  // On the whole axis what is younger than its end stands at its end.
  const from = ages === WHOLE_AXIS ? 0 : ages.youngest;
  const inSight = spines.filter((spine) => spine.age_days <= ages.oldest && spine.age_days >= from);
  if (inSight.length <= LOOSE)
    return inSight.map((spine) => ({ x: xOf(spine.age_days, ages, width), spines: [spine] }));
  const found = new Map<string, Bundle>();
  for (const spine of inSight) {
    const column = Math.round(xOf(spine.age_days, ages, width) / CLOSE_PIXELS);
    const key = `${column} ${spine.height} ${spine.state}`;
    const bundle = found.get(key);
    if (bundle) bundle.spines.push(spine);
    else found.set(key, { x: column * CLOSE_PIXELS, spines: [spine] });
  }
  return [...found.values()];
}

/** A spine and all that it rests on, back to what rests on nothing there. */
export function chainOf(spine: Spine, shelves: ShelfOfCopy[]): Spine[] {
  const shelf = shelves.find((one) => one.spines.includes(spine));
  const chain = [spine];
  let older = spine.parent === null ? undefined : shelf?.spines[spine.parent];
  while (older) {
    chain.push(older);
    older = older.parent === null ? undefined : shelf?.spines[older.parent];
  }
  return chain;
}
