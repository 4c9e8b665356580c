import { Box, Button, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { PointRow } from "../../api/types";
import { useDesign, useNames, useTargetName } from "../../design/context";
import { bytesText, countText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { type Filter, NothingListed, PointFilter } from "./PointFilter";
import { useFilter } from "./useFilter";

const PAGE = 100;

/** Every point that is on a target at the as-of date, a page at a time, with why it is there and until when. */
export function PointList({ target }: { target: string }) {
  const [filter, setFilter] = useFilter();
  return <ListOfPoints target={target} filter={filter} onFilter={setFilter} />;
}

interface ListProps {
  /** The target that it is about; null for all, which the filter then chooses from. */
  target: string | null;
  filter: Filter;
  onFilter: (filter: Filter) => void;
}

export function ListOfPoints({ target, filter, onFilter }: ListProps) {
  const { design, on } = useDesign();
  const id = design.id;
  const [first, setFirst] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another list begins at its beginning
  useEffect(() => setFirst(0), [target, filter, on]);
  const query = { on, ...(target === null ? {} : { target }), ...filter };
  const list = useQuery({
    queryKey: keys.points(id, design.revision, query, first),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/points", {
          params: { path: { id }, query: { ...query, first, most: PAGE } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const { rows, total, rules, runs } = list.data ?? { rows: [], total: 0, rules: [], runs: [] };
  return (
    <Stack sx={{ minHeight: 0, flex: 1, px: 2, gap: 0.5 }}>
      <PointFilter
        filter={filter}
        rules={rules}
        runs={runs}
        choosesTarget={target === null}
        onChange={onFilter}
      />
      <Stack direction="row" sx={{ gap: 1, alignItems: "center" }}>
        <Typography color="textSecondary" data-testid="listed" sx={{ mr: "auto" }}>
          {total === 0
            ? "None"
            : `${countText(first + 1)} to ${countText(first + rows.length)} of ${countText(total)}`}
        </Typography>
        <Button disabled={first === 0} onClick={() => setFirst(Math.max(0, first - PAGE))}>
          Rows before
        </Button>
        <Button disabled={first + PAGE >= total} onClick={() => setFirst(first + PAGE)}>
          More rows
        </Button>
        {total > 0 && (
          <Button component="a" href={`/api/designs/${id}/points.csv?${new URLSearchParams(query)}`} download>
            Download all {countText(total)} as CSV
          </Button>
        )}
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
        {list.error ? (
          <Notice title="The list cannot be shown" error={list.error} />
        ) : !list.data ? (
          <Notice title="Listing the points…" />
        ) : total === 0 ? (
          <NothingListed filter={filter} />
        ) : (
          <PointTable rows={rows} withTarget={target === null} />
        )}
      </Box>
    </Stack>
  );
}

const HEADS = [
  "Workload",
  "Copy",
  "Target",
  "Taken",
  "Kind",
  "Why it is there, and until when",
  "Deleted",
  "Stored",
];

function PointTable({ rows, withTarget }: { rows: readonly PointRow[]; withTarget: boolean }) {
  const names = useNames();
  const targetName = useTargetName();
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
        "& th, & td": {
          px: 0.75,
          verticalAlign: "top",
          py: 0.25,
          borderBottom: 1,
          borderColor: "divider",
          whiteSpace: "nowrap",
        },
        "& .restore": { color: "text.secondary" },
        "& .why": { whiteSpace: "normal", minWidth: 380 },
        "& th:last-of-type, & td:last-of-type": { textAlign: "right" },
      }}
    >
      <thead>
        <tr>
          {HEADS.filter((head) => withTarget || head !== "Target").map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.route}/${row.copy}/${row.target}/${row.workload}/${row.taken}/${row.run}`}>
            <td>{names.workload(row.workload)}</td>
            <td>{names.copy(row.route, row.copy)}</td>
            {withTarget && <td>{targetName(row.target)}</td>}
            <td>{dayAndTime(row.taken)}</td>
            <td>{row.kind}</td>
            <td className="why">
              {row.why} <span className="restore">{row.restore}</span>
            </td>
            <td>{dayAndTime(row.removed)}</td>
            <td>{bytesText(row.stored_bytes)}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** How a local time is written: a space for the T; what is no time stays as it is. */
function dayAndTime(text: string): string {
  return text.replace("T", " ");
}
