import { Box } from "@mui/material";
import { useRef, useState } from "react";
import type { Workload } from "../../api/types";
import { ColumnMenu } from "./ColumnMenu";
import { type Column, widthOf } from "./columns";
import { GridHead } from "./GridHead";
import { GridRows } from "./GridRows";
import { RefusedCells } from "./gridSteps";
import { cellText, type Filter, type Order } from "./rows";
import type { GridColumns } from "./useGridColumns";
import { useGridKeys } from "./useGridKeys";
import type { Cell, Selection } from "./useSelection";
import { useTypedCells } from "./useTypedCells";

interface Props {
  workloads: readonly Workload[];
  columns: GridColumns;
  /** Null while it is not known. */
  routesOf: ReadonlyMap<string, string> | null;
  orders: readonly Order[];
  onOrders: (orders: Order[]) => void;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  selection: Selection;
  onPaste: (text: string, at: Cell) => void;
}

/** The column whose menu is open, and what the cell under the hand says in it. */
interface OpenMenu {
  field: Column["field"];
  value: string | null;
}

/**
 * The grid of workloads: only the rows in sight are drawn. Arrows walk, Shift spans a block, Enter or typing edits, Space
 * chooses a row, Ctrl C and Ctrl V copy and paste blocks as tabs and lines, Ctrl D fills down, Ctrl Enter opens what can be
 * done with the column.
 */
export function WorkloadGrid(props: Props) {
  const { workloads, columns, routesOf, onPaste } = props;
  const shown = columns.shown;
  const typed = useTypedCells();
  const scroller = useRef<HTMLDivElement>(null);
  const [menu, setMenu] = useState<OpenMenu | null>(null);
  const selection = inside(props.selection, shown.length);
  const { active } = selection;
  const routesTo = (workload: Workload) => routesOf && (routesOf.get(workload.id) ?? "");
  const openMenu = (column: Column, workload: Workload | undefined) =>
    setMenu({
      field: column.field,
      value: workload ? cellText(workload, column.field, routesTo(workload)) : null,
    });
  const keys = useGridKeys({
    workloads,
    columns: shown,
    routesOf,
    selection,
    typed,
    scroller,
    onPaste,
    onMenu: openMenu,
  });
  const column = shown.find((one) => one.field === menu?.field);
  return (
    <Box sx={FRAME}>
      <Box
        ref={scroller}
        role="grid"
        aria-label="Workloads"
        aria-rowcount={workloads.length + 1}
        aria-colcount={shown.length + 1}
        aria-multiselectable="true"
        aria-activedescendant={`cell-${active.row}-${active.column}`}
        tabIndex={0}
        onKeyDown={keys.press}
        onCopy={keys.copy}
        onPaste={keys.paste}
        sx={{
          flex: 1,
          minHeight: 0,
          overflow: "auto",
          "&:focus-visible": { outline: "none" },
        }}
      >
        <Box sx={{ minWidth: widthOf(shown) }}>
          <GridHead {...props} selection={selection} onMenu={(one) => openMenu(one, workloads[active.row])} />
          <GridRows
            workloads={workloads}
            columns={shown}
            routesTo={routesTo}
            selection={selection}
            typed={typed}
            keys={keys}
            scroller={scroller}
          />
        </Box>
      </Box>
      <RefusedCells
        typed={typed}
        workload={workloads[active.row]}
        field={shown[active.column]?.field ?? ""}
        further={keys.notFilled}
      />
      {column && menu && (
        <ColumnMenu
          {...props}
          column={column}
          value={menu.value}
          anchor={scroller.current?.querySelector(`[data-field=${menu.field}]`) ?? scroller.current}
          onClose={() => {
            setMenu(null);
            scroller.current?.focus();
          }}
        />
      )}
    </Box>
  );
}

/** A selection whose cells are among so many columns, also after some were hidden. */
function inside(selection: Selection, columns: number): Selection {
  const bounded = (cell: Cell): Cell => ({ row: cell.row, column: Math.min(cell.column, columns - 1) });
  return { ...selection, active: bounded(selection.active), anchor: bounded(selection.anchor) };
}

const FRAME = {
  flex: 1,
  minHeight: 0,
  display: "flex",
  flexDirection: "column",
  border: 1,
  borderColor: "divider",
  bgcolor: "background.paper",
  "&:has([role=grid]:focus-visible)": { borderColor: "primary.main" },
};
