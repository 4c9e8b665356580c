import ArrowDropDownIcon from "@mui/icons-material/ArrowDropDown";
import ArrowDropUpIcon from "@mui/icons-material/ArrowDropUp";
import { Box, ButtonBase, Checkbox } from "@mui/material";
import { Fragment } from "react";
import type { Workload } from "../../api/types";
import {
  CHECK_WIDTH,
  COLUMNS,
  type Column,
  flexOf,
  GRID_WIDTH,
  isRight,
  ROUTES_AFTER,
  ROUTES_WIDTH,
} from "./columns";
import type { Order } from "./rows";
import type { Selection } from "./useSelection";

interface Props {
  workloads: readonly Workload[];
  order: Order | null;
  onOrder: (order: Order | null) => void;
  selection: Selection;
}

/** The names of the columns; a click sorts by one, again the other way round, again not. */
export function GridHead({ workloads, order, onOrder, selection }: Props) {
  const all = workloads.length > 0 && workloads.every((one) => selection.chosen.has(one.id));
  const turn = (column: Column) => {
    if (order?.field !== column.field) onOrder({ field: column.field, down: false });
    else onOrder(order.down ? null : { field: column.field, down: true });
  };
  return (
    <Box
      role="row"
      aria-rowindex={1}
      sx={{
        position: "sticky",
        top: 0,
        zIndex: 1,
        display: "flex",
        minWidth: GRID_WIDTH,
        height: 44,
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
      {COLUMNS.map((column) => (
        <Fragment key={column.field}>
          <Head column={column} order={order} onTurn={() => turn(column)} />
          {column.field === ROUTES_AFTER && (
            <Box
              role="columnheader"
              sx={{ ...NAME, flex: `1 0 ${ROUTES_WIDTH}px`, display: "flex", alignItems: "center" }}
            >
              Routes
            </Box>
          )}
        </Fragment>
      ))}
    </Box>
  );
}

const NAME = { px: 0.75, fontWeight: 600, lineHeight: 1.1, color: "text.secondary", fontSize: 13.5 };

function Head({ column, order, onTurn }: { column: Column; order: Order | null; onTurn: () => void }) {
  const isOrdered = order?.field === column.field;
  return (
    <Box
      role="columnheader"
      aria-sort={isOrdered ? (order.down ? "descending" : "ascending") : "none"}
      sx={{
        ...NAME,
        flex: flexOf(column),
        display: "flex",
        alignItems: "center",
        justifyContent: isRight(column) ? "flex-end" : "flex-start",
        textAlign: isRight(column) ? "right" : "left",
      }}
    >
      <ButtonBase
        onClick={onTurn}
        onKeyDown={(event) => event.stopPropagation()}
        sx={{ font: "inherit", textAlign: "inherit", lineHeight: "inherit" }}
        focusRipple
      >
        {column.name}
        {isOrdered &&
          (order.down ? <ArrowDropDownIcon fontSize="small" /> : <ArrowDropUpIcon fontSize="small" />)}
      </ButtonBase>
    </Box>
  );
}
