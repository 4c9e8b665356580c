import { Box } from "@mui/material";
import { type KeyboardEvent, useCallback, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { RoutePart, RoutesOut, Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { pathOfNewCopy } from "./copies";
import { Heads, useColumns } from "./MatrixHeads";
import { MatrixRow } from "./MatrixRow";
import { COLUMN_WIDTH, LABEL_WIDTH } from "./Wires";

interface Props {
  readings: RoutesOut | undefined;
  chosenRoute: string;
  chosenCopy: string;
}

/** What can be done in the matrix; each is one edit. */
export interface MatrixEdits {
  addCopy: (route: RoutePart, target: Target) => void;
  moveCopy: (route: RoutePart, copy: string, target: Target) => void;
  removeCopy: (route: RoutePart, copy: string) => void;
  stepDown: (route: RoutePart, copy: string, target: Target) => void;
}

/** Routes by targets. Arrows walk the cells; Enter opens or adds a copy, Delete takes it out, Shift and an arrow moves it. */
export function Matrix({ readings, chosenRoute, chosenCopy }: Props) {
  const { design } = useDesign();
  const { routes } = design.document;
  const targets = useColumns();
  const edits = useMatrixEdits();
  const grid = useRef<HTMLDivElement>(null);
  const isHeld = useHeld();
  const [focus, setFocus] = useState({ row: 0, column: -1 });
  useEffect(() => {
    if (!grid.current) return;
    const element = grid.current;
    // Again whenever the matrix gets another height: what stands below it grows once it has been fetched.
    // Not while a hand holds something: what it takes, and where it goes, must not move away under it.
    const observer = new ResizeObserver(() => isHeld() || bringIntoSight(element, chosenRoute));
    observer.observe(element);
    return () => observer.disconnect();
  }, [chosenRoute, isHeld]);
  const go = (row: number, column: number) => {
    const next = {
      row: Math.max(0, Math.min(routes.length - 1, row)),
      column: Math.max(-1, Math.min(targets.length - 1, column)),
    };
    setFocus(next);
    grid.current?.querySelector<HTMLElement>(`[data-cell="${next.row}:${next.column}"]`)?.focus();
  };
  const press = (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    if (!by || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    const route = routes[focus.row];
    const copy = route?.copies.find((one) => one.target === targets[focus.column]?.id);
    const next = targets[focus.column + by[1]];
    if (event.shiftKey && route && copy && next) edits.moveCopy(route, copy.id, next);
    go(focus.row + by[0], focus.column + by[1]);
  };
  const columns = `${LABEL_WIDTH}px repeat(${targets.length}, minmax(${COLUMN_WIDTH}px, 1fr))`;
  return (
    <Box
      role="grid"
      aria-label="Routes by targets"
      ref={grid}
      onKeyDown={press}
      sx={{
        overflow: "auto",
        border: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        // The rest of the station is for what is chosen; a few rows of the matrix always stay.
        minHeight: 220,
        flex: "0 1 auto",
      }}
    >
      <Box sx={{ minWidth: LABEL_WIDTH + COLUMN_WIDTH * targets.length }}>
        <Heads targets={targets} columns={columns} />
        {routes.map((route, row) => (
          <MatrixRow
            key={route.id}
            row={row}
            route={route}
            targets={targets}
            columns={columns}
            reading={readings?.routes[route.id]}
            chosen={route.id === chosenRoute}
            chosenCopy={route.id === chosenRoute ? chosenCopy : ""}
            focused={focus.row === row ? focus.column : null}
            onFocus={(column) => setFocus({ row, column })}
            edits={edits}
          />
        ))}
      </Box>
    </Box>
  );
}

/** Whether a pointer is pressed; the end of a drag is told as such, and not as the pointer let go. */
function useHeld(): () => boolean {
  const held = useRef(false);
  useEffect(() => {
    const stop = new AbortController();
    const set = (value: boolean) => () => {
      held.current = value;
    };
    const options = { capture: true, signal: stop.signal };
    window.addEventListener("pointerdown", set(true), options);
    for (const name of ["pointerup", "dragend", "drop"]) window.addEventListener(name, set(false), options);
    return () => stop.abort();
  }, []);
  return useCallback(() => held.current, []);
}

/** Scrolls the matrix, and nothing else, until the row of a route is below its head and above its foot. */
function bringIntoSight(grid: HTMLElement, route: string): void {
  const row = grid.querySelector<HTMLElement>(`[data-route="${CSS.escape(route)}"]`);
  const head = grid.querySelector<HTMLElement>("[role=rowgroup]");
  if (!row || !head) return;
  const box = row.getBoundingClientRect();
  const top = grid.getBoundingClientRect().top + grid.clientTop;
  const above = top + head.offsetHeight - box.top;
  const below = box.bottom - (top + grid.clientHeight);
  if (above > 0) grid.scrollTop -= above;
  else if (below > 0) grid.scrollTop += below;
}

const ARROWS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

function useMatrixEdits(): MatrixEdits {
  const { command } = useDesign();
  const navigate = useNavigate();
  const names = (target: Target) => target.name || target.id;
  const called = (route: RoutePart, id: string) => route.copies.find((one) => one.id === id)?.name || id;
  const liesOn = (route: RoutePart, id: string) => route.copies.find((one) => one.id === id)?.target;
  return {
    addCopy: async (route, target) => {
      const what = `a copy of ${route.name || route.id} on ${names(target)}`;
      const made = await command({ do: "add-copy", route: route.id, target: target.id }, what);
      if (made) navigate(pathOfNewCopy(made));
    },
    moveCopy: (route, id, target) => {
      if (liesOn(route, id) === target.id) return;
      const what = `${called(route, id)} moved to ${names(target)}`;
      void command({ do: "move-copy", route: route.id, copy: id, target: target.id }, what);
    },
    removeCopy: (route, id) => {
      if (route.copies.length < 2) return;
      const what = `removed the copy ${id} of ${route.name || route.id}`;
      void command({ do: "take-out-copy", route: route.id, copy: id }, what);
    },
    stepDown: (route, id, target) => {
      if (liesOn(route, id) === target.id) return;
      const what = `${called(route, id)} steps down to ${names(target)}`;
      void command({ do: "add-step-down", route: route.id, copy: id, target: target.id }, what);
    },
  };
}
