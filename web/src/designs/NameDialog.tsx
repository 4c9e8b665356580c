import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from "@mui/material";
import { useState } from "react";

interface Props {
  title: string;
  hint: string;
  start: string;
  onName: (name: string) => void;
  onClose: () => void;
}

/** Asks for one name. */
export function NameDialog({ title, hint, start, onName, onClose }: Props) {
  const [name, setName] = useState(start);
  return (
    <Dialog open onClose={onClose} aria-labelledby="name-title" fullWidth maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) onName(name.trim());
        }}
      >
        <DialogTitle id="name-title">{title}</DialogTitle>
        <DialogContent>
          <Typography sx={{ mb: 2 }}>{hint}</Typography>
          <TextField
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoFocus
            fullWidth
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === ""}>
            {title}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
