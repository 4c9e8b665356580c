import AddIcon from "@mui/icons-material/Add";
import { Box } from "@mui/material";
import type { DragEvent, KeyboardEvent } from "react";
import { useNavigate } from "react-router";
import type { Copy, RoutePart, RouteReading, Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { ArrivalBox, CopyBox } from "./CopyBox";
import { DRAG_TYPE, type Dragged } from "./dragged";
import type { MatrixEdits } from "./Matrix";
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
  edits: MatrixEdits;
}

// Room for the wires, in pixels.
const [ABOVE, BELOW] = [13, 14];

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
        "@media print": { height: "auto", minHeight: ROW_HEIGHT },
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

/** What a cell says of itself: its copy, what steps down to it, or that it is free. */
function cellWords(
  name: string,
  first: Copy | undefined,
  arrives: readonly Copy[],
  reading: Props["reading"],
  canEdit: boolean,
): string {
  if (first) return `${first.name || first.id} on ${name}. ${reading?.copies[first.id] ?? ""}`;
  if (arrives.length > 0)
    return `${arrives.map((copy) => copy.name || copy.id).join(", ")} steps down to ${name}`;
  return `No copy on ${name}${canEdit ? ". Enter adds one" : ""}`;
}

/** What was dropped, if it is of the matrix. */
function draggedOf(event: DragEvent): Dragged | null {
  const plain = event.dataTransfer.getData(DRAG_TYPE);
  if (!plain) return null;
  event.preventDefault();
  return JSON.parse(plain) as Dragged;
}

function Cell(props: Props & { target: Target; column: number }) {
  const { row, route, target, column, chosenCopy, focused, onFocus, edits, reading } = props;
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
    else if (canEdit) edits.addCopy(route, target);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      act();
    }
    if (event.key === "Delete" && first && canEdit) edits.removeCopy(route, first.id);
  };
  const drop = (event: DragEvent) => {
    const dragged = draggedOf(event);
    if (dragged?.route !== route.id) return;
    if (dragged.kind === "copy") edits.moveCopy(route, dragged.copy, target);
    else edits.stepDown(route, dragged.copy, target);
  };
  const words = cellWords(target.name || target.id, first, arrives, reading, canEdit);
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
        p: `${ABOVE}px 4px ${BELOW}px`,
        // A row whose head needs more lines is higher on paper; copies stay by their wires.
        "& > *": { maxHeight: ROW_HEIGHT - ABOVE - BELOW },
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
