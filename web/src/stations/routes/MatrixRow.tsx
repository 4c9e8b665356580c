import AddIcon from "@mui/icons-material/Add";
import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { DragEvent, KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import type { Copy, RoutePart, RouteReading, Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import type { MatrixHands } from "./Matrix";
import { RouteLabel } from "./RouteLabel";
import { ROW_HEIGHT, Wires } from "./Wires";

interface Props {
  row: number;
  route: RoutePart;
  targets: readonly Target[];
  columns: string;
  reading: RouteReading | undefined;
  chosen: boolean;
  chosenCopy: string;
  focused: number | null;
  onFocus: (column: number) => void;
  hands: MatrixHands;
}

/** What is dragged: a copy to another target, or the end of a step-down. */
type Dragged = { kind: "copy" | "step"; route: string; copy: string };
const DRAG_TYPE = "application/x-rested-shelf-copy";

/** A route: its label, a cell for each target, and the wires between its copies. */
export function MatrixRow(props: Props) {
  const { row, route, targets, columns, chosen, chosenCopy, focused, onFocus } = props;
  return (
    <Box
      role="row"
      data-route={route.id}
      aria-label={route.name || route.id}
      sx={{
        position: "relative",
        display: "grid",
        gridTemplateColumns: columns,
        height: ROW_HEIGHT,
        borderTop: 1,
        borderColor: "divider",
        bgcolor: chosen ? "background.default" : "transparent",
      }}
    >
      <RouteLabel
        row={row}
        route={route}
        reading={props.reading}
        chosen={chosen && chosenCopy === ""}
        focused={focused === -1}
        onFocus={() => onFocus(-1)}
      />
      {targets.map((target, column) => (
        <Cell key={target.id} {...props} target={target} column={column} />
      ))}
      <Wires route={route} targets={targets} />
    </Box>
  );
}

function Cell(props: Props & { target: Target; column: number }) {
  const { row, route, target, column, chosenCopy, focused, onFocus, hands, reading } = props;
  const { canEdit } = useDesign();
  const navigate = useNavigate();
  const copies = route.copies.filter((copy) => copy.target === target.id);
  const first = copies[0];
  const arrives = route.copies.filter((copy) =>
    (copy.step_downs ?? []).some((step) => step.target === target.id),
  );
  const open = (copy: Copy) =>
    navigate(`/routes/${encodeURIComponent(route.id)}/${encodeURIComponent(copy.id)}`);
  const act = () => {
    if (first) open(first);
    else if (arrives[0]) open(arrives[0]);
    else if (canEdit) hands.addCopy(route, target);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      act();
    }
    if (event.key === "Delete" && first && canEdit) hands.removeCopy(route, first.id);
  };
  const drop = (event: DragEvent) => {
    const plain = event.dataTransfer.getData(DRAG_TYPE);
    if (!plain) return;
    event.preventDefault();
    const dragged = JSON.parse(plain) as Dragged;
    if (dragged.route !== route.id) return;
    if (dragged.kind === "copy") hands.moveCopy(route, dragged.copy, target);
    else hands.stepDown(route, dragged.copy, target);
  };
  const name = target.name || target.id;
  const words = first
    ? `${first.name || first.id} on ${name}. ${reading?.copies[first.id] ?? ""}`
    : arrives.length > 0
      ? `${arrives.map((copy) => copy.name || copy.id).join(", ")} steps down to ${name}`
      : `No copy on ${name}${canEdit ? ". Enter adds one" : ""}`;
  return (
    <Box
      role="gridcell"
      tabIndex={focused === column ? 0 : -1}
      data-cell={`${row}:${column}`}
      aria-label={words}
      title={first ? words : undefined}
      onFocus={() => onFocus(column)}
      onKeyDown={press}
      onClick={act}
      onDragOver={(event) => canEdit && event.preventDefault()}
      onDrop={drop}
      sx={{
        borderLeft: 1,
        borderColor: "divider",
        cursor: "pointer",
        p: "13px 4px 14px",
        minWidth: 0,
        display: "flex",
        flexDirection: "column",
        gap: "2px",
        "&:focus-visible": { outlineOffset: -2 },
        "& .add": { opacity: 0 },
        "&:hover .add, &:focus .add": { opacity: 0.7 },
      }}
    >
      {copies.map((copy) => (
        <CopyBox key={copy.id} route={route} copy={copy} chosen={copy.id === chosenCopy} />
      ))}
      {copies.length === 0 && arrives.length > 0 && <ArrivalBox copies={arrives} />}
      {copies.length === 0 && arrives.length === 0 && canEdit && (
        <AddIcon className="add" fontSize="small" sx={{ m: "auto", color: "text.secondary" }} />
      )}
    </Box>
  );
}

function CopyBox({ route, copy, chosen }: { route: RoutePart; copy: Copy; chosen: boolean }) {
  const { design, canEdit } = useDesign();
  const { inks } = useTheme();
  const slips = useFindings().filter((one) => one.route === route.id && one.copy === copy.id).length;
  const ladder = design.document.ladders.find((one) => one.id === copy.ladder);
  const locked = (copy.lock ?? []).length > 0;
  const drag = (kind: Dragged["kind"]) => (event: DragEvent) => {
    event.stopPropagation();
    event.dataTransfer.setData(DRAG_TYPE, JSON.stringify({ kind, route: route.id, copy: copy.id }));
  };
  return (
    <Box
      draggable={canEdit}
      onDragStart={drag("copy")}
      data-copy={`${route.id}/${copy.id}`}
      sx={{
        position: "relative",
        flex: 1,
        minHeight: 0,
        px: 0.6,
        border: 1,
        borderColor: chosen ? "primary.main" : "text.secondary",
        outline: chosen ? "1px solid" : "none",
        outlineColor: "primary.main",
        borderRadius: "3px",
        bgcolor: "background.paper",
        // A lock is brass, and double: told without colour too.
        ...(locked ? { borderLeft: `5px double ${inks.brass}` } : {}),
        overflow: "hidden",
      }}
    >
      <Typography noWrap sx={{ fontWeight: 600, fontSize: 13, lineHeight: 1.25 }}>
        {copy.name || copy.id}
      </Typography>
      <Typography noWrap color="textSecondary" sx={{ fontSize: 12, lineHeight: 1.15 }}>
        {copy.rotation ? "tapes in rotation" : ladder?.name || copy.ladder}
      </Typography>
      {slips > 0 && (
        <Box
          title={`${slips} to look at`}
          sx={{
            position: "absolute",
            right: 3,
            top: 3,
            width: 7,
            height: 7,
            bgcolor: "error.main",
            transform: "rotate(45deg)",
          }}
        />
      )}
      {canEdit && (
        <Box
          draggable
          onDragStart={drag("step")}
          title="Drag to another target: older points step down to it"
          data-step-handle={`${route.id}/${copy.id}`}
          sx={{
            position: "absolute",
            right: 1,
            bottom: 1,
            width: 11,
            height: 11,
            borderRight: 2,
            borderBottom: 2,
            borderColor: "primary.main",
            cursor: "grab",
          }}
        />
      )}
    </Box>
  );
}

function ArrivalBox({ copies }: { copies: readonly Copy[] }) {
  return (
    <Box
      sx={{
        flex: 1,
        px: 0.6,
        border: "1px dashed",
        borderColor: "text.secondary",
        borderRadius: "3px",
        overflow: "hidden",
      }}
    >
      <Typography noWrap sx={{ fontSize: 12.5, lineHeight: 1.3 }}>
        from {copies.map((copy) => copy.name || copy.id).join(", ")}
      </Typography>
      <Typography noWrap color="textSecondary" sx={{ fontSize: 12, lineHeight: 1.15 }}>
        stepped down
      </Typography>
    </Box>
  );
}
