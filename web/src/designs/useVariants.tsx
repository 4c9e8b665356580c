import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, ProblemError, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "../design/context";
import { useDesigns } from "./openDesign";

export function DropDialog({
  name,
  onClose,
  onDrop,
}: {
  name: string;
  onClose: () => void;
  onDrop: () => void;
}) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="drop-title">
      <DialogTitle id="drop-title">Remove {name}?</DialogTitle>
      <DialogContent>
        <Typography>It goes with all its history, for everybody. This cannot be undone.</Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Cancel
        </Button>
        <Button color="error" variant="contained" onClick={onDrop}>
          Remove it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What can be done with variants; each refreshes the list of designs. */
export function useVariants() {
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
