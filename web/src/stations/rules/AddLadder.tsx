import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import type { Ladder } from "../../api/types";
import { useStartingPoints } from "../../shared/useStartingPoints";

const BLANK: Ladder = {
  id: "ladder",
  name: "New ladder",
  recent: [{ keep: { points: 14 } }],
  rungs: [],
  floor: 1,
};

/** Ladders to start from; all of their values can be edited afterwards. */
export function AddLadder({
  onChoose,
  onClose,
}: {
  onChoose: (ladder: Ladder) => void;
  onClose: () => void;
}) {
  const starts = useStartingPoints()?.ladders ?? [];
  const blank = {
    ladder: BLANK,
    fits: "The newest fourteen points and nothing else: add its rungs yourself.",
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="add-ladder-title" maxWidth="sm" fullWidth>
      <DialogTitle id="add-ladder-title">Add a ladder</DialogTitle>
      <DialogContent>
        {[...starts, blank].map(({ ladder, fits }) => (
          <Box key={ladder.id} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            <Button
              fullWidth
              sx={{ justifyContent: "flex-start", textAlign: "left" }}
              onClick={() => onChoose(ladder)}
            >
              <span>
                <Typography
                  component="span"
                  sx={{ fontWeight: 600, display: "block", color: "text.primary" }}
                >
                  {ladder.name}
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
