import CloseIcon from "@mui/icons-material/Close";
import { Box, Button, Drawer, IconButton, Stack, Typography } from "@mui/material";
import { useInfiniteQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { HistoryStep } from "../api/types";
import { useDesign } from "../design/context";
import { Notice } from "../shared/Notice";
import { ChangedEntries } from "./ChangedEntries";
import { GoingBack } from "./GoingBack";

/** Who changed what and when, the newest first, with what each field was before. */
export function HistoryDrawer({ onClose }: { onClose: () => void }) {
  const { design, canEdit } = useDesign();
  const id = design.id;
  const [back, setBack] = useState<number | null>(null);
  const history = useInfiniteQuery({
    queryKey: keys.history(id, design.revision),
    queryFn: ({ pageParam }) =>
      unwrap(
        client.GET("/api/designs/{id}/history", {
          params: { path: { id }, query: pageParam === null ? {} : { before: pageParam } },
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.before,
  });
  const steps = history.data?.pages.flatMap((page) => page.steps) ?? [];
  return (
    <Drawer
      open
      anchor="right"
      onClose={onClose}
      slotProps={{
        paper: { sx: { width: 460, borderLeft: 1, borderColor: "divider" }, "aria-label": "History" },
      }}
    >
      <Stack direction="row" sx={{ p: 2, alignItems: "center", justifyContent: "space-between" }}>
        <Typography variant="h2">History</Typography>
        <IconButton aria-label="Close the history" onClick={onClose}>
          <CloseIcon fontSize="small" />
        </IconButton>
      </Stack>
      {history.error && <Notice title="The history cannot be fetched" error={history.error} />}
      {history.data && steps.length === 0 && <Notice title="Nothing has been changed yet" />}
      {steps.map((step) => (
        <Fragment key={step.revision}>
          <Step
            step={step}
            isNow={step.revision === design.revision}
            onBack={canEdit && step.revision !== design.revision ? () => setBack(step.revision) : null}
          />
          {back === step.revision && <GoingBack step={step} onClose={() => setBack(null)} />}
        </Fragment>
      ))}
      {history.hasNextPage && (
        <Button onClick={() => void history.fetchNextPage()} loading={history.isFetchingNextPage}>
          Older changes
        </Button>
      )}
    </Drawer>
  );
}

/** What somebody did at once, and the way back to how the design was then. */
function Step({ step, isNow, onBack }: { step: HistoryStep; isNow: boolean; onBack: (() => void) | null }) {
  const when = new Date(step.when);
  return (
    <Box component="article" sx={{ px: 2, py: 1, borderTop: 1, borderColor: "divider" }}>
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography variant="body2" color="textSecondary">
          <time dateTime={step.when}>
            {when.toLocaleDateString("sv-SE")} {when.toLocaleTimeString("sv-SE").slice(0, 5)}
          </time>
          , {step.who || "somebody who is gone"}
        </Typography>
        {isNow && (
          <Typography variant="body2" color="textSecondary">
            as it is now
          </Typography>
        )}
        {onBack && (
          <Button size="small" onClick={onBack} aria-label={`Back to after: ${step.what || "Changed"}`}>
            Back to here
          </Button>
        )}
      </Stack>
      <Typography sx={{ fontWeight: 600 }}>{step.what || "Changed"}</Typography>
      <ChangedEntries entries={step.entries} more={step.more} />
    </Box>
  );
}
