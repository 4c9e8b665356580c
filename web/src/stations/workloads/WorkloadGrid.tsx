import { Box } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { COLUMNS, GRID_WIDTH, ROW_HEIGHT } from "./columns";
import { GridHead } from "./GridHead";
import { GridRow } from "./GridRow";
import { blockText, marks, RefusedCells, span, steps, typedIn } from "./gridSteps";
import { type Order, toRow } from "./rows";
import type { Cell, Selection } from "./useSelection";
import { useTypedCells } from "./useTypedCells";

interface Props {
  workloads: readonly Workload[];
  /** Null while it is not known. */
  routesOf: ReadonlyMap<string, string> | null;
  order: Order | null;
  onOrder: (order: Order | null) => void;
  selection: Selection;
  onPaste: (text: string, at: Cell) => void;
}

/**
 * The grid of workloads: only the rows in sight are drawn. Arrows walk, Shift spans a block, Enter or typing edits, Space
 * chooses a row, Ctrl C and Ctrl V copy and paste blocks as tabs and lines.
 */
export function WorkloadGrid(props: Props) {
  const { workloads, selection, onPaste } = props;
  const { canEdit } = useDesign();
  const typed = useTypedCells();
  const scroller = useRef<HTMLDivElement>(null);
  const [editing, setEditing] = useState<{ cell: Cell; start: string | null } | null>(null);
  const virtual = useVirtualizer({
    count: workloads.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const { active, anchor } = selection;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the row under the hand is brought into sight when it changes
  useEffect(() => virtual.scrollToIndex(active.row, { align: "auto" }), [active.row]);

  const at = (cell: Cell): Workload | undefined => workloads[cell.row];
  const go = (cell: Cell, extend: boolean) =>
    selection.go(
      {
        row: Math.max(0, Math.min(workloads.length - 1, cell.row)),
        column: Math.max(0, Math.min(COLUMNS.length - 1, cell.column)),
      },
      extend,
    );
  const keep = (workload: Workload, column: number, text: string) => {
    const into = COLUMNS[column];
    setEditing(null);
    scroller.current?.focus();
    if (!into) return;
    const waiting = typed.of(workload.id, into.field);
    if (!waiting && toRow(workload)[into.field] === text) return;
    if (waiting && toRow(workload)[into.field] === text) return typed.giveUp(workload.id, into.field);
    void typed.keep(workload, into, text);
  };
  const press = (event: KeyboardEvent) => {
    if (editing) return;
    const step = steps(event.key, Math.floor((scroller.current?.clientHeight ?? 400) / ROW_HEIGHT) - 2);
    const workload = at(active);
    const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey;
    if (step && isPlain) go({ row: active.row + step[0], column: active.column + step[1] }, event.shiftKey);
    else if (event.key === " " && workload)
      selection.toggle(span(workloads, active, anchor), !selection.chosen.has(workload.id));
    else if (event.key === "a" && (event.ctrlKey || event.metaKey))
      selection.toggle(
        workloads.map((one) => one.id),
        true,
      );
    else if (event.key === "Escape") leave(workload);
    else if (event.key === "Delete" && workload && canEdit) keep(workload, active.column, "");
    else if ((event.key === "Enter" || event.key === "F2") && canEdit)
      setEditing({ cell: active, start: null });
    else if (event.key.length === 1 && isPlain && canEdit) {
      // Keys of the whole page do not act while a cell is under the hand: typing begins an edit.
      event.stopPropagation();
      event.nativeEvent.stopImmediatePropagation();
      setEditing({ cell: active, start: event.key });
    } else return;
    event.preventDefault();
  };
  /** Gives up what was refused in the cell under the hand; without that, what was chosen. */
  const leave = (workload: Workload | undefined) => {
    const field = COLUMNS[active.column]?.field;
    if (workload && field && typed.of(workload.id, field)) typed.giveUp(workload.id, field);
    else selection.clear();
  };
  const copy = (event: ClipboardEvent) => {
    if (editing) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", blockText(workloads, active, anchor));
  };
  const paste = (event: ClipboardEvent) => {
    if (editing || !canEdit) return;
    event.preventDefault();
    onPaste(event.clipboardData.getData("text/plain"), {
      row: Math.min(active.row, anchor.row),
      column: Math.min(active.column, anchor.column),
    });
  };
  return (
    <Box sx={FRAME}>
      <Box
        ref={scroller}
        role="grid"
        aria-label="Workloads"
        aria-rowcount={workloads.length + 1}
        aria-colcount={COLUMNS.length + 2}
        aria-multiselectable="true"
        aria-activedescendant={`cell-${active.row}-${active.column}`}
        tabIndex={0}
        onKeyDown={press}
        onCopy={copy}
        onPaste={paste}
        sx={{
          flex: 1,
          minHeight: 0,
          overflow: "auto",
          "&:focus-visible": { outline: "none" },
        }}
      >
        <Box sx={{ minWidth: GRID_WIDTH, height: virtual.getTotalSize() + 44, position: "relative" }}>
          <GridHead {...props} />
          {virtual.getVirtualItems().map(({ index, start }) => {
            const workload = workloads[index];
            if (!workload) return null;
            return (
              <GridRow
                key={workload.id}
                index={index}
                top={start + 44}
                workload={workload}
                routes={props.routesOf && (props.routesOf.get(workload.id) ?? "")}
                chosen={selection.chosen.has(workload.id)}
                marks={marks(index, active, anchor)}
                typed={typedIn(workload, typed)}
                editing={editing?.cell.row === index ? editing : null}
                onGo={go}
                onEdit={(cell) => canEdit && setEditing({ cell, start: null })}
                onKeep={keep}
                onLeave={() => {
                  setEditing(null);
                  scroller.current?.focus();
                }}
                onToggle={selection.toggle}
              />
            );
          })}
        </Box>
      </Box>
      <RefusedCells typed={typed} workload={at(active)} field={COLUMNS[active.column]?.field ?? ""} />
    </Box>
  );
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
