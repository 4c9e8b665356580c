import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { DragEvent, TouchEvent } from "react";
import type { Copy, RoutePart } from "../../api/types";
import { useDesign } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { DRAG_TYPE, type Dragged } from "./dragged";
import { dragByTouch } from "./touchDrag";

export function CopyBox({ route, copy, chosen }: { route: RoutePart; copy: Copy; chosen: boolean }) {
  const { design, canEdit } = useDesign();
  const { inks } = useTheme();
  const slips = useFindings().filter((one) => one.route === route.id && one.copy === copy.id).length;
  const ladder = design.document.ladders.find((one) => one.id === copy.ladder);
  const locked = (copy.lock ?? []).length > 0;
  const dragged = (kind: Dragged["kind"]): Dragged => ({ kind, route: route.id, copy: copy.id });
  const drag = (kind: Dragged["kind"]) => (event: DragEvent) => {
    event.stopPropagation();
    event.dataTransfer.setData(DRAG_TYPE, JSON.stringify(dragged(kind)));
  };
  const touch = (kind: Dragged["kind"]) => (event: TouchEvent) => {
    event.stopPropagation();
    if (canEdit) dragByTouch(event.nativeEvent, dragged(kind));
  };
  return (
    <Box
      draggable={canEdit}
      onDragStart={drag("copy")}
      onTouchStart={touch("copy")}
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
          onTouchStart={touch("step")}
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

export function ArrivalBox({ copies }: { copies: readonly Copy[] }) {
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
