import { Box } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useMemo } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Together, Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { isUnderWay } from "../../design/editing";
import { bytesText, countText, writtenDate } from "../../shared/format";

/** What all that is shown, or all that is chosen, comes to at the end of the as-of date. */
export function GridTotals({ of, isChosen }: { of: readonly Workload[]; isChosen: boolean }) {
  const { design, on, saveState } = useDesign();
  // Typing into a filter goes first; what it comes to follows.
  const counted = useDeferredValue(of.length === design.document.workloads.length ? null : of);
  const ids = useMemo(() => counted?.map((one) => one.id) ?? null, [counted]);
  const answer = useQuery({
    queryKey: keys.workloadTotals(design.id, design.revision, on, ids),
    queryFn: () =>
      unwrap(
        client.POST("/api/designs/{id}/workload-totals", {
          params: { path: { id: design.id } },
          body: { on, ids },
        }),
      ),
    enabled: !isUnderWay(saveState),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const found = answer.data?.together;
  return (
    <Box
      data-testid="totals"
      sx={{
        borderTop: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        px: 1,
        py: 0.5,
        color: "text.secondary",
        opacity: answer.isPlaceholderData ? 0.6 : 1,
      }}
    >
      {found ? `${isChosen ? "Chosen" : "Together"} on ${writtenDate(on)}: ${wordsOf(found)}` : "…"}
    </Box>
  );
}

function wordsOf(found: Together): string {
  const parts = [
    `${countText(found.workloads)} ${found.workloads === 1 ? "workload" : "workloads"}`,
    `${countText(found.machines)} ${found.machines === 1 ? "machine" : "machines"}`,
    bytesText(found.source_bytes),
    `${bytesText(found.changed_bytes)} change in a day`,
  ];
  if (found.log_bytes > 0) parts.push(`${bytesText(found.log_bytes)} of logs in a day`);
  return parts.join(", ");
}
