import ArrowDropDownIcon from "@mui/icons-material/ArrowDropDown";
import ArrowDropUpIcon from "@mui/icons-material/ArrowDropUp";
import { Box, ButtonBase, Checkbox } from "@mui/material";
import { type PointerEvent, useRef } from "react";
import type { Workload } from "../../api/types";
import { CHECK_WIDTH, type Column, flexOf, HEAD_HEIGHT, isRight, widthOf } from "./columns";
import { type Order, turned } from "./rows";
import type { GridColumns } from "./useGridColumns";
import type { Selection } from "./useSelection";

interface Props {
  workloads: readonly Workload[];
  columns: GridColumns;
  orders: readonly Order[];
  onOrders: (orders: Order[]) => void;
  onMenu: (column: Column) => void;
  selection: Selection;
}

/** The names of the columns: a click sorts by one, again the other way round, again not; with Shift by a further one. */
export function GridHead({ workloads, columns, orders, onOrders, onMenu, selection }: Props) {
  const all = workloads.length > 0 && workloads.every((one) => selection.chosen.has(one.id));
  return (
    <Box
      role="row"
      aria-rowindex={1}
      sx={{
        position: "sticky",
        top: 0,
        zIndex: 1,
        display: "flex",
        minWidth: widthOf(columns.shown),
        height: HEAD_HEIGHT,
        bgcolor: "background.paper",
        borderBottom: 1,
        borderColor: "divider",
      }}
    >
      <Box
        role="columnheader"
        sx={{ width: CHECK_WIDTH, flexShrink: 0, display: "grid", placeItems: "center" }}
      >
        <Checkbox
          size="small"
          sx={{ p: 0 }}
          checked={all}
          indeterminate={!all && selection.chosen.size > 0}
          onChange={(_, on) =>
            selection.toggle(
              workloads.map((one) => one.id),
              on,
            )
          }
          slotProps={{ input: { "aria-label": "Choose all that are shown", tabIndex: -1 } }}
        />
      </Box>
      {columns.shown.map((column) => (
        <Head
          key={column.field}
          column={column}
          orders={orders}
          onTurn={(isFurther) => onOrders(turned(orders, column.field, isFurther))}
          onMenu={() => onMenu(column)}
          onWidth={(width) => columns.resize(column.field, width)}
        />
      ))}
    </Box>
  );
}

const NAME = { px: 0.75, fontWeight: 600, lineHeight: 1.1, color: "text.secondary", fontSize: 13.5 };

interface HeadProps {
  column: Column;
  orders: readonly Order[];
  onTurn: (isFurther: boolean) => void;
  onMenu: () => void;
  onWidth: (width: number) => void;
}

function Head({ column, orders, onTurn, onMenu, onWidth }: HeadProps) {
  const place = orders.findIndex((one) => one.field === column.field);
  const right = isRight(column);
  return (
    <Box
      role="columnheader"
      aria-sort={sortOf(orders[place])}
      data-field={column.field}
      onContextMenu={(event) => {
        event.preventDefault();
        onMenu();
      }}
      sx={{
        ...NAME,
        flex: flexOf(column),
        position: "relative",
        minWidth: 0,
        display: "flex",
        alignItems: "center",
        justifyContent: right ? "flex-end" : "flex-start",
        textAlign: right ? "right" : "left",
      }}
    >
      <ButtonBase
        onClick={(event) => column.reads && onTurn(event.shiftKey)}
        onKeyDown={(event) => event.stopPropagation()}
        sx={{ font: "inherit", textAlign: "inherit", lineHeight: "inherit", minWidth: 0 }}
        focusRipple
      >
        {column.name}
        {place >= 0 &&
          (orders[place]?.down ? (
            <ArrowDropDownIcon fontSize="small" />
          ) : (
            <ArrowDropUpIcon fontSize="small" />
          ))}
        {place >= 0 && orders.length > 1 && <span>{place + 1}</span>}
      </ButtonBase>
      <Border onWidth={onWidth} />
    </Box>
  );
}

function sortOf(order: Order | undefined): "none" | "ascending" | "descending" {
  if (!order) return "none";
  return order.down ? "descending" : "ascending";
}

/** The right border of a column, drawn to where it is wanted. By keys the column's menu makes it wider and narrower. */
function Border({ onWidth }: { onWidth: (width: number) => void }) {
  const began = useRef<{ at: number; width: number } | null>(null);
  const begin = (event: PointerEvent<HTMLElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    began.current = { at: event.clientX, width: event.currentTarget.parentElement?.clientWidth ?? 0 };
  };
  const draw = (event: PointerEvent<HTMLElement>) => {
    const from = began.current;
    if (from) onWidth(from.width + event.clientX - from.at);
  };
  return (
    <Box
      aria-hidden
      data-border
      onPointerDown={begin}
      onPointerMove={draw}
      onPointerUp={() => {
        began.current = null;
      }}
      sx={{
        position: "absolute",
        right: -3,
        top: 8,
        bottom: 8,
        width: 7,
        cursor: "col-resize",
        touchAction: "none",
        borderRight: 1,
        borderColor: "divider",
        "&:hover": { borderColor: "primary.main", borderRightWidth: 2 },
      }}
    />
  );
}
