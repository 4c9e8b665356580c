import { useMemo } from "react";
import type { GridColumn } from "../../api/types";
import { usePreferences } from "../../session/usePreferences";
import { ALL_COLUMNS, type Column } from "./columns";
import type { Field } from "./rows";

const NARROWEST = 30;
const WIDEST = 800;

export interface GridColumns {
  /** Those in sight, in their order. */
  shown: readonly Column[];
  /** All of them, in their order, each with whether it is in sight. */
  all: readonly (readonly [Column, boolean])[];
  resize: (field: Field, width: number) => void;
  /** Makes a column so many pixels wider; less than 0 makes it narrower. */
  widen: (field: Field, by: number) => void;
  /** Moves a column so many places among those in sight. */
  move: (field: Field, by: number) => void;
  show: (field: Field, shown: boolean) => void;
  /** Everything as it stands at first. */
  reset: () => void;
}

/** The columns of the grid as the person has set them: kept with the person, so that they are the same on every machine. */
export function useGridColumns(): GridColumns {
  const { kept, now: chosen, put } = usePreferences();
  return useMemo(() => {
    const all = asKept(kept.grid);
    const keep = (grid: GridColumn[]) => put({ grid });
    const now = () => asKept(chosen().grid);
    const change = (field: Field, to: (column: Column, shown: boolean) => readonly [Column, boolean]) =>
      keep(
        now()
          .map(([column, shown]) => (column.field === field ? to(column, shown) : ([column, shown] as const)))
          .map(asGridColumn),
      );
    return {
      all,
      shown: all.filter(([, shown]) => shown).map(([column]) => column),
      resize: (field, width) =>
        change(field, (column, shown) => [{ ...column, width: bounded(width) }, shown]),
      widen: (field, by) =>
        change(field, (column, shown) => [{ ...column, width: bounded(column.width + by) }, shown]),
      move: (field, by) => keep(moved(now(), field, by).map(asGridColumn)),
      show: (field, shown) => change(field, (column) => [column, shown]),
      reset: () => keep([]),
    };
  }, [kept, chosen, put]);
}

function bounded(width: number): number {
  return Math.round(Math.max(NARROWEST, Math.min(WIDEST, width)));
}

/** All columns in the order that is kept; what is not named there comes after, as at first. */
export function asKept(kept: readonly GridColumn[]): (readonly [Column, boolean])[] {
  const ranks = new Map(kept.map((one, rank) => [one.field, rank]));
  const rank = (column: Column) => ranks.get(column.field) ?? kept.length;
  return [...ALL_COLUMNS]
    .sort((one, other) => rank(one) - rank(other))
    .map((column) => {
      const found = kept.find((one) => one.field === column.field);
      const shown = found ? !found.hidden : !column.hidden;
      return [{ ...column, width: found?.width ?? column.width }, shown] as const;
    });
}

function asGridColumn([column, shown]: readonly [Column, boolean]): GridColumn {
  const atFirst = ALL_COLUMNS.find((one) => one.field === column.field)?.width;
  return { field: column.field, width: column.width === atFirst ? null : column.width, hidden: !shown };
}

/** All columns with one so many places further among those in sight; at the edge it stays. */
export function moved(
  all: readonly (readonly [Column, boolean])[],
  field: Field,
  by: number,
): (readonly [Column, boolean])[] {
  const shown = all.filter(([, isShown]) => isShown);
  const beside = shown[shown.findIndex(([column]) => column.field === field) + by];
  const one = all.find(([column]) => column.field === field);
  if (!beside || !one) return [...all];
  const rest = all.filter((pair) => pair !== one);
  const place = rest.indexOf(beside) + (by > 0 ? 1 : 0);
  return [...rest.slice(0, place), one, ...rest.slice(place)];
}
