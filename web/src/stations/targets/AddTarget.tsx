import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import type { Target } from "../../api/types";
import { useStartingPoints } from "../../shared/useStartingPoints";

/** Targets to start from; all of their values can be edited afterwards. */
export function AddTarget({
  onChoose,
  onClose,
}: {
  onChoose: (target: Target) => void;
  onClose: () => void;
}) {
  const starts = useStartingPoints()?.targets ?? [];
  return (
    <Dialog open onClose={onClose} aria-labelledby="add-target-title" maxWidth="sm" fullWidth>
      <DialogTitle id="add-target-title">Add a target</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1 }}>
          Points to start from. Sizes and prices are invented; every value can be edited.
        </Typography>
        {starts.map(({ target, fits }) => (
          <Box key={target.name} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            <Button
              fullWidth
              sx={{ justifyContent: "flex-start", textAlign: "left" }}
              onClick={() => onChoose(target)}
            >
              <span>
                <Typography
                  component="span"
                  sx={{ fontWeight: 600, display: "block", color: "text.primary" }}
                >
                  {target.name}
                </Typography>
                <Typography component="span" variant="body2" color="textSecondary">
                  {fits}
                </Typography>
              </span>
            </Button>
          </Box>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
      </DialogActions>
    </Dialog>
  );
}
