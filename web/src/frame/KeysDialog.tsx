import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Typography,
} from "@mui/material";
import { KEYS } from "./useKeys";
import { useSingleKeys } from "./useSingleKeys";

/** What the keyboard does. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const single = useSingleKeys();
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
        <FormControlLabel
          sx={{ mt: 2 }}
          control={<Checkbox checked={single.on} onChange={(_, on) => single.set(on)} />}
          label="Keys without Ctrl act on the page"
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
