import { Box, Button, Stack, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { HistoryStep } from "../api/types";
import type { Change } from "../design/changes";
import { useDesign } from "../design/context";
import { Notice } from "../shared/Notice";
import { ChangedEntries } from "./ChangedEntries";

/** What going back to a step would change, and the edit that does it: it can be taken back as any other. */
export function GoingBack({ step, onClose }: { step: HistoryStep; onClose: () => void }) {
  const { design, edit } = useDesign();
  const { id, revision } = design;
  const found = useQuery({
    queryKey: keys.back(id, revision, step.revision),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/back", {
          params: { path: { id }, query: { revision: step.revision } },
        }),
      ),
  });
  const changes = (found.data?.changes ?? []) as Change[];
  const [busy, setBusy] = useState(false);
  const goBack = async () => {
    setBusy(true);
    const done = await edit(changes, `back to after: ${step.what || "a change"}`);
    setBusy(false);
    if (done) onClose();
  };
  const shown = useRef<HTMLDivElement>(null);
  const known = found.data !== undefined || found.error !== null;
  useEffect(() => {
    // What is asked about stands below its step: it comes into sight as soon as it is known.
    if (known) shown.current?.scrollIntoView?.({ block: "nearest" });
  }, [known]);
  return (
    <Box ref={shown} role="region" aria-label="Going back" sx={{ px: 2, py: 1, bgcolor: "action.hover" }}>
      {found.isPending && <Typography variant="body2">Looking at what would change…</Typography>}
      {found.error && <Notice title="What would change cannot be fetched" error={found.error} />}
      {found.data && changes.length === 0 && (
        <Typography variant="body2">The design is as it was then.</Typography>
      )}
      {changes.length > 0 && (
        <Typography variant="body2" sx={{ fontWeight: 600 }}>
          Going back changes {changes.length === 1 ? "one entry" : `${changes.length} entries`}:
        </Typography>
      )}
      {found.data && <ChangedEntries entries={found.data.entries} more={found.data.more} />}
      <Stack direction="row" spacing={1} sx={{ mt: 1 }}>
        {changes.length > 0 && (
          <Button size="small" variant="contained" loading={busy} onClick={() => void goBack()}>
            Go back
          </Button>
        )}
        <Button size="small" onClick={onClose}>
          Stay
        </Button>
      </Stack>
    </Box>
  );
}
