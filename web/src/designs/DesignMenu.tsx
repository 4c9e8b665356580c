import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Divider,
  Popover,
  Stack,
  Typography,
} from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, ProblemError, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "../design/context";
import { NameDialog } from "./NameDialog";
import { useDesigns } from "./openDesign";

interface Props {
  anchor: HTMLElement | null;
  onClose: () => void;
  onNew: () => void;
  onSettings: () => void;
  onHistory: () => void;
  onBring: () => void;
  onTokens: () => void;
}

const FILES = [
  ["JSON", "document", "json"],
  ["YAML", "document.yaml", "yaml"],
  ["calendar", "calendar.ics", "ics"],
] as const;

type Asked = "branch" | "rename" | "drop" | null;

/** The designs of the person and their variants, and what can be done with the one that is open. */
export function DesignMenu({ anchor, onClose, onNew, onSettings, onHistory, onBring, onTokens }: Props) {
  const { design, canEdit } = useDesign();
  const { designs, open } = useDesigns();
  const [asked, setAsked] = useState<Asked>(null);
  const act = useVariants();
  const families = [...new Set(designs.map((one) => one.family))];
  const siblings = designs.filter(
    (one) => one.family === designs.find((other) => other.id === design.id)?.family,
  );
  const then = (work: () => void) => () => {
    onClose();
    work();
  };
  return (
    <>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={onClose}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{
          paper: { sx: { width: 360, border: 1, borderColor: "divider", p: 2 }, "aria-label": "Designs" },
        }}
      >
        {families.map((family) => (
          <Box key={family} sx={{ mb: 1 }}>
            <Typography variant="h3">{designs.find((one) => one.family === family)?.name}</Typography>
            {designs
              .filter((one) => one.family === family)
              .map((one) => (
                <Button
                  key={one.id}
                  fullWidth
                  sx={{ justifyContent: "flex-start", fontWeight: one.id === design.id ? 700 : 400 }}
                  aria-current={one.id === design.id ? "true" : undefined}
                  onClick={then(() => open(one.id, window.location.pathname.replace(/^\/designs\/\d+/, "")))}
                >
                  {one.variant}
                  {one.current && (
                    <Typography component="span" variant="body2" color="textSecondary" sx={{ ml: 1 }}>
                      current
                    </Typography>
                  )}
                </Button>
              ))}
          </Box>
        ))}
        {act.error && (
          <Typography role="alert" color="error">
            {act.error}
          </Typography>
        )}
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          {canEdit && <Button onClick={() => setAsked("branch")}>Branch a variant</Button>}
          {canEdit && <Button onClick={() => setAsked("rename")}>Rename the variant</Button>}
          {canEdit && !design.current && <Button onClick={() => act.makeCurrent()}>Make it current</Button>}
          {design.role === "owner" && (!design.current || siblings.length === 1) && (
            <Button color="error" onClick={() => setAsked("drop")}>
              Drop the variant
            </Button>
          )}
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          <Button onClick={then(onSettings)}>Settings</Button>
          <Button onClick={then(onHistory)}>History</Button>
          <Button onClick={then(onTokens)}>Tokens for scripts</Button>
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap", alignItems: "center" }}>
          <Typography color="textSecondary">Keep as a file</Typography>
          {FILES.map(([name, path, ending]) => (
            <Button
              key={path}
              component="a"
              href={`/api/designs/${design.id}/${path}`}
              download={`${design.document.name}.${ending}`}
            >
              {name}
            </Button>
          ))}
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          <Button onClick={then(onBring)}>Bring a document in</Button>
          <Button onClick={then(onNew)}>New design</Button>
        </Stack>
      </Popover>
      {asked === "drop" && (
        <DropDialog
          name={design.variant}
          onClose={() => setAsked(null)}
          onDrop={() => {
            setAsked(null);
            onClose();
            act.drop();
          }}
        />
      )}
      {asked && asked !== "drop" && (
        <NameDialog
          title={asked === "branch" ? "Branch a variant" : "Rename the variant"}
          hint={
            asked === "branch"
              ? `It starts as a copy of "${design.variant}"; its changes are measured from there.`
              : "What is this variant called?"
          }
          start={asked === "branch" ? "" : design.variant}
          onClose={() => setAsked(null)}
          onName={(name) => {
            setAsked(null);
            onClose();
            if (asked === "branch") act.branch(name);
            else act.rename(name);
          }}
        />
      )}
    </>
  );
}

function DropDialog({ name, onClose, onDrop }: { name: string; onClose: () => void; onDrop: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="drop-title">
      <DialogTitle id="drop-title">Drop {name}?</DialogTitle>
      <DialogContent>
        <Typography>It goes with all its history, for everybody. This cannot be undone.</Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Leave it
        </Button>
        <Button color="error" variant="contained" onClick={onDrop}>
          Drop it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What can be done with variants; each refreshes the list of designs. */
function useVariants() {
  const { design } = useDesign();
  const { designs, open } = useDesigns();
  const cache = useQueryClient();
  const path = { params: { path: { id: design.id } } };
  const within = () => window.location.pathname.replace(/^\/designs\/\d+/, "");
  const refresh = async () => {
    await cache.invalidateQueries({ queryKey: keys.designs });
    await cache.invalidateQueries({ queryKey: keys.anyDesign });
  };
  const act = useMutation({
    mutationFn: (work: () => Promise<void>) => work(),
  });
  const doing = (work: () => Promise<unknown>, after?: (made: unknown) => void) =>
    act.mutate(async () => {
      const made = await work();
      await refresh();
      after?.(made);
    });
  return {
    error: act.error instanceof ProblemError ? act.error.words : act.error ? "This did not work" : null,
    branch: (name: string) =>
      doing(
        () => unwrap(client.POST("/api/designs/{id}/variants", { ...path, body: { name } })),
        (made) => open((made as { id: number }).id, within()),
      ),
    rename: (name: string) =>
      doing(() => unwrap(client.PUT("/api/designs/{id}/variant", { ...path, body: { name } }))),
    makeCurrent: () => doing(() => unwrap(client.POST("/api/designs/{id}/current", path))),
    drop: () => {
      const next = designs.find((one) => one.id !== design.id);
      act.mutate(async () => {
        await unwrap(client.POST("/api/designs/{id}/drop", path));
        // Away from what is gone before anything asks for it again.
        if (next) open(next.id);
        else window.location.assign("/");
        await cache.invalidateQueries({ queryKey: keys.designs });
      });
    },
  };
}
