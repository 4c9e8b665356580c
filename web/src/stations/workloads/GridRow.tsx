import { Fragment, memo } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { CellEditor } from "./CellEditor";
import { CHECK_WIDTH, COLUMNS, flexOf, isRight, ROUTES_AFTER, ROUTES_WIDTH, ROW_HEIGHT } from "./columns";
import { toRow } from "./rows";
import type { Cell } from "./useSelection";

interface Props {
  index: number;
  top: number;
  workload: Workload;
  /** The names of the routes that take it; empty for none, null while that is not known. */
  routes: string | null;
  chosen: boolean;
  /** First and last column of the block in this row, and the column under the hand: `1:3:2`; empty for none. */
  marks: string;
  /** What is not saved in its cells: fields with text and the reason of a refusal, as one text. */
  typed: string;
  editing: { cell: Cell; start: string | null } | null;
  onGo: (cell: Cell, extend: boolean) => void;
  onEdit: (cell: Cell) => void;
  onKeep: (workload: Workload, column: number, text: string) => void;
  onLeave: () => void;
  onToggle: (ids: readonly string[], on: boolean) => void;
}

/** One row of the grid. It is drawn anew only when something in it changes: the handlers do not count. */
export const GridRow = memo(Drawn, isSame);

function isSame(before: Props, after: Props): boolean {
  return (
    before.index === after.index &&
    before.top === after.top &&
    before.workload === after.workload &&
    before.routes === after.routes &&
    before.chosen === after.chosen &&
    before.marks === after.marks &&
    before.typed === after.typed &&
    before.editing === after.editing &&
    after.editing === null
  );
}

function Drawn(props: Props) {
  const { index, top, workload, routes, chosen, marks, editing } = props;
  const row = toRow(workload);
  const typed = new Map(
    (props.typed === "" ? [] : (JSON.parse(props.typed) as [string, string, string | null][])).map(
      ([field, text, why]) => [field, { text, why }],
    ),
  );
  const [first = -1, last = -2, active = -1] = marks === "" ? [] : marks.split(":").map(Number);
  return (
    // biome-ignore lint/a11y/useFocusableInteractive: the grid is what has the focus, as its active descendant says
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={chosen}
      data-workload={workload.id}
      className={chosen ? "row chosen" : "row"}
      style={{ transform: `translateY(${top}px)`, height: ROW_HEIGHT }}
    >
      <div role="gridcell" tabIndex={-1} className="check" style={{ width: CHECK_WIDTH }}>
        <input
          type="checkbox"
          tabIndex={-1}
          checked={chosen}
          onChange={(event) => props.onToggle([workload.id], event.target.checked)}
          aria-label={`Choose ${row.name || row.id}`}
        />
      </div>
      {COLUMNS.map((column, at) => (
        <Fragment key={column.field}>
          {editing?.cell.column === at ? (
            <CellEditor
              column={column}
              start={editing.start ?? typed.get(column.field)?.text ?? row[column.field]}
              typed={editing.start !== null}
              label={`${column.name} of ${row.name || row.id}`}
              onKeep={(text) => props.onKeep(workload, at, text)}
              onLeave={props.onLeave}
            />
          ) : (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the grid itself listens for keys, as its active descendant says
            <div
              id={`cell-${index}-${at}`}
              role="gridcell"
              tabIndex={-1}
              className={cellClass(
                isRight(column),
                at >= first && at <= last,
                at === active,
                typed.get(column.field)?.why,
              )}
              aria-invalid={typed.get(column.field)?.why ? true : undefined}
              title={typed.get(column.field)?.why ?? undefined}
              style={{ flex: flexOf(column) }}
              onClick={(event) => props.onGo({ row: index, column: at }, event.shiftKey)}
              onDoubleClick={() => props.onEdit({ row: index, column: at })}
            >
              {typed.get(column.field)?.text ??
                (column.field === "site" ? <SiteName id={row.site} /> : row[column.field])}
            </div>
          )}
          {column.field === ROUTES_AFTER && (
            <div
              role="gridcell"
              tabIndex={-1}
              className={`cell ${routes === "" ? "untaken" : ""}`}
              style={{ flex: `1 0 ${ROUTES_WIDTH}px` }}
              title={routes === "" ? "No route takes it" : (routes ?? undefined)}
            >
              {routes === "" ? "no route" : (routes ?? "…")}
            </div>
          )}
        </Fragment>
      ))}
    </div>
  );
}

function SiteName({ id }: { id: string }) {
  const { design } = useDesign();
  return design.document.sites.find((site) => site.id === id)?.name || id;
}

function cellClass(
  right: boolean,
  inBlock: boolean,
  active: boolean,
  why: string | null | undefined,
): string {
  const unsaved = why === undefined ? "" : why === null ? " waiting" : " refused";
  return `cell${unsaved}${right ? " number" : ""}${inBlock ? " block" : ""}${active ? " active" : ""}`;
}
