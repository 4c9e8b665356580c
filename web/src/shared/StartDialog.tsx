import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";

interface Props<T> {
  title: string;
  hint?: string;
  starts: readonly { name: string; fits: string; value: T }[];
  onChoose: (value: T) => void;
  onClose: () => void;
}

/** Ready-made entries to start from, each with when it fits. */
export function StartDialog<T>({ title, hint, starts, onChoose, onClose }: Props<T>) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="start-title" maxWidth="sm" fullWidth>
      <DialogTitle id="start-title">{title}</DialogTitle>
      <DialogContent>
        {hint && (
          <Typography color="textSecondary" sx={{ mb: 1 }}>
            {hint}
          </Typography>
        )}
        {starts.map(({ name, fits, value }) => (
          <Box key={name} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            <Button
              fullWidth
              sx={{ justifyContent: "flex-start", textAlign: "left" }}
              onClick={() => onChoose(value)}
            >
              <span>
                <Typography
                  component="span"
                  sx={{ fontWeight: 600, display: "block", color: "text.primary" }}
                >
                  {name}
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
        <Button onClick={onClose}>Cancel</Button>
      </DialogActions>
    </Dialog>
  );
}
