import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { KEYS } from "./useKeys";

/** What the keyboard does. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <Box
          component="dl"
          sx={{ display: "grid", gridTemplateColumns: "auto 1fr", columnGap: 3, rowGap: 1, m: 0 }}
        >
          {KEYS.map(([key, what]) => (
            <Box key={key} sx={{ display: "contents" }}>
              <Typography component="dt" sx={{ fontWeight: 600, whiteSpace: "pre" }}>
                {key}
              </Typography>
              <Typography component="dd" sx={{ m: 0 }}>
                {what}
              </Typography>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
