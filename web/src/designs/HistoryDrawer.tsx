import CloseIcon from "@mui/icons-material/Close";
import { Box, Button, Drawer, IconButton, Stack, Typography } from "@mui/material";
import { useInfiniteQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { HistoryStep } from "../api/types";
import { useDesign } from "../design/context";
import { Notice } from "../shared/Notice";

/** Who changed what and when, the newest first, with what each field was before. */
export function HistoryDrawer({ onClose }: { onClose: () => void }) {
  const { design } = useDesign();
  const id = design.id;
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
        <Step key={step.revision} step={step} />
      ))}
      {history.hasNextPage && (
        <Button onClick={() => void history.fetchNextPage()} loading={history.isFetchingNextPage}>
          Older changes
        </Button>
      )}
    </Drawer>
  );
}

function Step({ step }: { step: HistoryStep }) {
  const when = new Date(step.when);
  return (
    <Box component="article" sx={{ px: 2, py: 1, borderTop: 1, borderColor: "divider" }}>
      <Typography variant="body2" color="textSecondary">
        <time dateTime={step.when}>
          {when.toLocaleDateString("sv-SE")} {when.toLocaleTimeString("sv-SE").slice(0, 5)}
        </time>
        , {step.who || "somebody who is gone"}
      </Typography>
      <Typography sx={{ fontWeight: 600 }}>{step.what || "Changed"}</Typography>
      {step.entries.map((entry) => (
        <Box key={`${entry.part}/${entry.key}`} sx={{ pl: 1.5 }}>
          <Typography variant="body2">
            {entry.name} {entry.how}
          </Typography>
          {entry.fields.map((field) => (
            <Typography key={field.field} variant="body2" color="textSecondary" sx={{ pl: 1.5 }}>
              {field.field}: {plain(field.before)} → {plain(field.after)}
            </Typography>
          ))}
        </Box>
      ))}
      {step.more > 0 && (
        <Typography variant="body2" sx={{ pl: 1.5 }}>
          and {step.more} more
        </Typography>
      )}
    </Box>
  );
}

function plain(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  return typeof value === "string" ? value : JSON.stringify(value);
}
