import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, unwrap } from "../../api/client";
import type { PointRow } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText } from "../../shared/format";
import { Notice } from "../../shared/Notice";

const PAGE = 100;
const STATES = ["kept", "locked", "needed", "due"] as const;
type State = (typeof STATES)[number];

/** Every point that is on a target at the as-of date, a page at a time, with why it is there and until when. */
export function PointList({ target }: { target: string }) {
  const { design, on } = useDesign();
  const id = design.id;
  const [state, setState] = useState<State | "">("");
  const [route, setRoute] = useState("");
  const [first, setFirst] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another list begins at its beginning
  useEffect(() => setFirst(0), [target, state, route, on]);
  const query = { on, target, first, most: PAGE, ...(state ? { state } : {}), ...(route ? { route } : {}) };
  const list = useQuery({
    queryKey: ["points", id, design.revision, query],
    queryFn: () => unwrap(client.GET("/api/designs/{id}/points", { params: { path: { id }, query } })),
    placeholderData: keepPreviousData,
  });
  if (list.error) return <Notice title="The list cannot be shown" error={list.error} />;
  if (!list.data) return <Notice title="Listing the points…" />;
  const { rows, total } = list.data;
  return (
    <Stack sx={{ minHeight: 0, flex: 1, px: 2, gap: 1 }}>
      <Stack direction="row" sx={{ gap: 1, alignItems: "center", pt: 1 }}>
        <Pick
          label="State"
          value={state}
          options={STATES}
          all="all states"
          onPick={(next) => setState(next as State | "")}
        />
        <Pick
          label="Route"
          value={route}
          options={design.document.routes.map((one) => one.id)}
          all="all routes"
          onPick={setRoute}
        />
        <Typography color="textSecondary" data-testid="listed" sx={{ ml: "auto" }}>
          {total === 0
            ? "None"
            : `${countText(first + 1)} to ${countText(first + rows.length)} of ${countText(total)}`}
        </Typography>
        <Button disabled={first === 0} onClick={() => setFirst(Math.max(0, first - PAGE))}>
          Newer rows
        </Button>
        <Button disabled={first + PAGE >= total} onClick={() => setFirst(first + PAGE)}>
          More rows
        </Button>
      </Stack>
      <Box
        role="region"
        aria-label="List of points"
        tabIndex={0} // it scrolls, from the keyboard too
        sx={{
          overflow: "auto",
          flex: 1,
          minHeight: 0,
          border: 1,
          borderColor: "divider",
          bgcolor: "background.paper",
        }}
      >
        <PointTable rows={rows} />
      </Box>
    </Stack>
  );
}

function Pick(props: {
  label: string;
  value: string;
  options: readonly string[];
  all: string;
  onPick: (value: string) => void;
}) {
  return (
    <TextField
      select
      label={props.label}
      value={props.value}
      onChange={(event) => props.onPick(event.target.value)}
      sx={{ minWidth: 130 }}
      slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
    >
      <MenuItem value="">{props.all}</MenuItem>
      {props.options.map((one) => (
        <MenuItem key={one} value={one}>
          {one}
        </MenuItem>
      ))}
    </TextField>
  );
}

const HEADS = ["Workload", "Copy", "Taken", "Kind", "Why", "Claimed until", "Locked until", "Goes", "Stored"];

function PointTable({ rows }: { rows: readonly PointRow[] }) {
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: 13.5,
        "& th": {
          position: "sticky",
          top: 0,
          bgcolor: "background.paper",
          color: "text.secondary",
          textAlign: "left",
        },
        "& th, & td": { px: 0.75, py: 0.25, borderBottom: 1, borderColor: "divider", whiteSpace: "nowrap" },
        "& th:last-of-type, & td:last-of-type": { textAlign: "right" },
      }}
    >
      <thead>
        <tr>
          {HEADS.map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.route}/${row.copy}/${row.target}/${row.workload}/${row.taken}/${row.run}`}>
            <td>{row.workload}</td>
            <td>
              {row.route}: {row.copy}
            </td>
            <td>{dayAndTime(row.taken)}</td>
            <td>{row.kind}</td>
            <td>{why(row)}</td>
            <td>{dayAndTime(row.claimed_until)}</td>
            <td>{row.locked_until === "never" ? "" : dayAndTime(row.locked_until)}</td>
            <td>{dayAndTime(row.removed)}</td>
            <td>{bytesText(row.stored_bytes)}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

function why(row: PointRow): string {
  if (row.state === "kept") return `kept by ${row.claims.join(" and ")}`;
  if (row.state === "needed") return `needed by that of ${dayAndTime(row.needed_by)}`;
  if (row.state === "locked") return row.lock === "own" ? "locked" : "locked with what needs it";
  return "due at the next sweep";
}

/** How a local time is written: a space for the T; what is no time stays as it is. */
function dayAndTime(text: string): string {
  return text.replace("T", " ");
}
