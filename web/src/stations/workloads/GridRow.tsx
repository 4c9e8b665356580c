import { memo } from "react";
import type { Workload } from "../../api/types";
import { CellEditor } from "./CellEditor";
import { CHECK_WIDTH, type Column, ROW_HEIGHT } from "./columns";
import { GridCell } from "./GridCell";
import { cellText, toRow } from "./rows";
import type { Editing, GoesOn } from "./useGridKeys";
import type { Cell } from "./useSelection";
import type { Typed } from "./useTypedCells";

interface Props {
  index: number;
  top: number;
  workload: Workload;
  columns: readonly Column[];
  /** The names of the routes that take it; empty for none, null while that is not known. */
  routes: string | null;
  chosen: boolean;
  /** First and last column of the block in this row, and the column under the hand: `1:3:2`; empty for none. */
  marks: string;
  /** What is not saved in its cells: fields with text and the reason of a refusal, as one text. */
  typed: string;
  editing: Editing | null;
  onGo: (cell: Cell, extend: boolean) => void;
  onEdit: (cell: Cell) => void;
  onKeep: (workload: Workload, column: Column, text: string, goesOn: GoesOn) => void;
  onLeave: () => void;
  onToggle: (ids: readonly string[], on: boolean) => void;
}

/** One row of the grid. It is drawn anew only when something in it changes: the handlers do not count. */
export const GridRow = memo(Drawn, isSame);

const COUNTS = [
  "index",
  "top",
  "workload",
  "columns",
  "routes",
  "chosen",
  "marks",
  "typed",
  "editing",
] as const;

function isSame(before: Props, after: Props): boolean {
  return after.editing === null && COUNTS.every((name) => before[name] === after[name]);
}

function Drawn(props: Props) {
  const { index, top, workload, columns, routes, chosen, editing } = props;
  const name = workload.name || workload.id;
  const typed = typedCells(props.typed);
  const [first = -1, last = -2, active = -1] = props.marks === "" ? [] : props.marks.split(":").map(Number);
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
          aria-label={`Choose ${name}`}
        />
      </div>
      {columns.map((column, at) =>
        editing?.cell.column === at && column.field !== "routes" ? (
          <CellEditor
            // What is being typed is of this workload alone: another one in its place begins with its own.
            key={`${workload.id} ${column.field}`}
            column={column}
            start={editing.start ?? typed.get(column.field)?.text ?? toRow(workload)[column.field]}
            typed={editing.start !== null}
            label={`${column.name} of ${name}`}
            onKeep={(text, goesOn) => props.onKeep(workload, column, text, goesOn)}
            onLeave={props.onLeave}
          />
        ) : (
          <GridCell
            key={column.field}
            cell={{ row: index, column: at }}
            column={column}
            text={cellText(workload, column.field, routes)}
            typed={typed.get(column.field)}
            isInBlock={at >= first && at <= last}
            isActive={at === active}
            routes={routes}
            onGo={props.onGo}
            onEdit={props.onEdit}
          />
        ),
      )}
    </div>
  );
}

function typedCells(text: string): Map<string, Typed> {
  const cells = text === "" ? [] : (JSON.parse(text) as [string, string, string | null][]);
  return new Map(cells.map(([field, typed, why]) => [field, { text: typed, place: "", why }]));
}
