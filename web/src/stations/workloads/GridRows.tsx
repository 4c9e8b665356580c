import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useRef } from "react";
import type { Workload } from "../../api/types";
import { type Column, ROW_HEIGHT } from "./columns";
import { GridRow } from "./GridRow";
import { marks, typedIn } from "./gridSteps";
import type { useGridKeys } from "./useGridKeys";
import type { Selection } from "./useSelection";
import type { TypedCells } from "./useTypedCells";

/** Rows beyond either edge of what is in sight that are drawn as well. */
const FURTHER = 8;

interface Props {
  workloads: readonly Workload[];
  columns: readonly Column[];
  routesTo: (workload: Workload) => string | null;
  selection: Selection;
  typed: TypedCells;
  keys: ReturnType<typeof useGridKeys>;
  scroller: RefObject<HTMLDivElement | null>;
}

/** The rows of the grid that are in sight. Scrolling draws these alone anew, nothing around them. */
export function GridRows({ workloads, columns, routesTo, selection, typed, keys, scroller }: Props) {
  const { active, anchor, chosen, toggle } = selection;
  const virtual = useVirtualizer({
    count: workloads.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: FURTHER,
  });
  const inSight = virtual.getVirtualItems();
  // A row that comes into sight is drawn into the place of one that went out of it: while scrolling nothing is made anew.
  const places = useRef(1);
  places.current = Math.max(places.current, inSight.length);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the row under the hand is brought into sight when it changes
  useEffect(() => virtual.scrollToIndex(active.row, { align: "auto" }), [active.row]);
  return (
    <div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
      {inSight.map(({ index, start }) => {
        const workload = workloads[index];
        if (!workload) return null;
        return (
          <GridRow
            key={index % places.current}
            index={index}
            top={start}
            workload={workload}
            columns={columns}
            routes={routesTo(workload)}
            chosen={chosen.has(workload.id)}
            marks={marks(index, active, anchor)}
            typed={typedIn(workload, typed)}
            editing={keys.editing?.cell.row === index ? keys.editing : null}
            onGo={(cell, extend) => {
              keys.go(cell, extend);
              // The grid keeps the focus: the row that was clicked may be drawn elsewhere at once, or not at all.
              scroller.current?.focus({ preventScroll: true });
            }}
            onEdit={keys.edit}
            onKeep={keys.keep}
            onLeave={keys.leave}
            onToggle={toggle}
          />
        );
      })}
    </div>
  );
}
