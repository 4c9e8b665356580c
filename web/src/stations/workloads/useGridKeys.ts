import { type ClipboardEvent, type KeyboardEvent, type RefObject, useState } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import { type Column, ROW_HEIGHT } from "./columns";
import { blockOf, blockText, filledDown, span, stepped } from "./gridSteps";
import { toRow } from "./rows";
import type { Cell, Selection } from "./useSelection";
import type { TypedCells } from "./useTypedCells";

/** The cell that is typed into, and the key that opened it, if one did. */
export interface Editing {
  cell: Cell;
  start: string | null;
}

/** Which way the hand goes on once a cell is kept. */
export type GoesOn = "down" | "up" | "right" | "left" | "stays";

const STEPS: Record<GoesOn, [number, number]> = {
  down: [1, 0],
  up: [-1, 0],
  right: [0, 1],
  left: [0, -1],
  stays: [0, 0],
};

interface Given {
  workloads: readonly Workload[];
  columns: readonly Column[];
  routesOf: ReadonlyMap<string, string> | null;
  selection: Selection;
  typed: TypedCells;
  scroller: RefObject<HTMLDivElement | null>;
  onPaste: (text: string, at: Cell) => void;
  onMenu: (column: Column, workload: Workload | undefined) => void;
}

/** What keys and the clipboard do in the grid. */
export function useGridKeys({
  workloads,
  columns,
  routesOf,
  selection,
  typed,
  scroller,
  onPaste,
  onMenu,
}: Given) {
  const { canEdit, type } = useDesign();
  const [editing, setEditing] = useState<Editing | null>(null);
  const [notFilled, setNotFilled] = useState("");
  const { active, anchor } = selection;
  const block = blockOf(active, anchor);
  const column = columns[active.column];
  const workload = workloads[active.row];
  const mayType = canEdit && column?.kind !== "said";

  const go = (cell: Cell, extend: boolean) =>
    selection.go(
      {
        row: Math.max(0, Math.min(workloads.length - 1, cell.row)),
        column: Math.max(0, Math.min(columns.length - 1, cell.column)),
      },
      extend,
    );
  const edit = (start: string | null) => {
    if (mayType) setEditing({ cell: active, start });
  };
  const leave = () => {
    setEditing(null);
    scroller.current?.focus();
  };
  const keep = (of: Workload, into: Column, text: string, goesOn: GoesOn) => {
    leave();
    const [rows, cells] = STEPS[goesOn];
    if (rows || cells) go({ row: active.row + rows, column: active.column + cells }, false);
    if (into.field === "routes") return;
    const isWaiting = typed.of(of.id, into.field) !== undefined;
    const isAsBefore = toRow(of)[into.field] === text;
    if (isAsBefore && isWaiting) typed.giveUp(of.id, into.field);
    else if (!isAsBefore) void typed.keep(of, into, text);
  };
  /** Gives up what was refused in the cell under the hand; without that, what was chosen. */
  const giveUp = () => {
    setNotFilled("");
    if (workload && column && typed.of(workload.id, column.field)) typed.giveUp(workload.id, column.field);
    else selection.clear();
  };
  const fillDown = async () => {
    const changes = filledDown(workloads, columns, block);
    if (!canEdit || changes.length === 0) return;
    const many = countText(changes.length);
    const why = await type(changes, `filled down ${many} ${changes.length === 1 ? "row" : "rows"}`);
    setNotFilled(why ? `Nothing was filled down: ${why}` : "");
  };
  const choose = () => {
    if (workload) selection.toggle(span(workloads, block), !selection.chosen.has(workload.id));
  };
  const chooseAll = () =>
    selection.toggle(
      workloads.map((one) => one.id),
      true,
    );
  const acts: Record<string, () => void> = {
    " ": choose,
    Escape: giveUp,
    Delete: () => workload && column && mayType && keep(workload, column, "", "stays"),
    Enter: () => edit(null),
    F2: () => edit(null),
  };
  const commands: Record<string, () => void> = {
    a: chooseAll,
    d: () => void fillDown(),
    Enter: () => column && onMenu(column, workload),
  };
  const typeOver = (event: KeyboardEvent) => {
    // Keys of the whole page do not act while a cell is under the hand: typing begins an edit.
    event.stopPropagation();
    event.nativeEvent.stopImmediatePropagation();
    edit(event.key);
  };
  /** What a key does; nothing for one that is no key of the grid. */
  const actOf = (event: KeyboardEvent): (() => void) | undefined => {
    const page = Math.floor((scroller.current?.clientHeight ?? 400) / ROW_HEIGHT) - 2;
    const next = stepped(event, active, page, columns.length);
    if (next) return () => go(next, event.shiftKey);
    if (event.ctrlKey || event.metaKey) return commands[event.key];
    return acts[event.key] ?? (event.key.length === 1 && canEdit ? () => typeOver(event) : undefined);
  };
  const press = (event: KeyboardEvent) => {
    const act = editing || event.altKey ? undefined : actOf(event);
    if (!act) return;
    act();
    event.preventDefault();
  };
  const copy = (event: ClipboardEvent) => {
    if (editing) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", blockText(workloads, columns, block, routesOf));
  };
  const paste = (event: ClipboardEvent) => {
    if (editing || !canEdit) return;
    event.preventDefault();
    onPaste(event.clipboardData.getData("text/plain"), { row: block.top, column: block.left });
  };
  return {
    editing,
    notFilled,
    go,
    keep,
    leave,
    press,
    copy,
    paste,
    edit: (cell: Cell) =>
      canEdit && columns[cell.column]?.kind !== "said" && setEditing({ cell, start: null }),
  };
}
