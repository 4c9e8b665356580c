import type { ReactNode } from "react";
import { useDesign } from "../../design/context";
import { type Column, flexOf, isRight } from "./columns";
import type { Cell } from "./useSelection";
import type { Typed } from "./useTypedCells";

interface Props {
  cell: Cell;
  column: Column;
  text: string;
  /** What was typed into it and is not saved. */
  typed: Typed | undefined;
  isInBlock: boolean;
  isActive: boolean;
  /** The routes that take its workload; null while they are not known. */
  routes: string | null;
  onGo: (cell: Cell, extend: boolean) => void;
  onEdit: (cell: Cell) => void;
}

/** A cell of the grid that is not typed into just now. */
export function GridCell({ cell, column, text, typed, isInBlock, isActive, routes, onGo, onEdit }: Props) {
  const isUntaken = column.field === "routes" && routes === "";
  const marks = [
    "cell",
    stateOf(typed),
    isRight(column) && "number",
    isInBlock && "block",
    isActive && "active",
    isUntaken && "untaken",
  ];
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid itself listens for keys, as its active descendant says
    <div
      id={`cell-${cell.row}-${cell.column}`}
      role="gridcell"
      tabIndex={-1}
      className={marks.filter(Boolean).join(" ")}
      aria-invalid={typed?.why ? true : undefined}
      title={typed?.why ?? (column.field === "routes" && text ? text : undefined)}
      style={{ flex: flexOf(column) }}
      onClick={(event) => onGo(cell, event.shiftKey)}
      onDoubleClick={() => onEdit(cell)}
    >
      {typed?.text ?? said(column, text, routes)}
    </div>
  );
}

function stateOf(typed: Typed | undefined): string {
  if (typed === undefined) return "";
  return typed.why === null ? "waiting" : "refused";
}

function said(column: Column, text: string, routes: string | null): ReactNode {
  if (column.field === "site") return <SiteName id={text} />;
  if (column.field !== "routes") return text;
  if (routes === null) return "…";
  return routes === "" ? "no route" : text;
}

function SiteName({ id }: { id: string }) {
  const { design } = useDesign();
  return design.document.sites.find((site) => site.id === id)?.name || id;
}
