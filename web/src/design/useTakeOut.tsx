import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  List,
  ListItem,
  MenuItem,
  TextField,
  Typography,
} from "@mui/material";
import { type ReactNode, useState } from "react";
import { client, unwrap } from "../api/client";
import type { ListName, MentionsOut } from "../api/types";
import { useDesign } from "./context";

interface Asked {
  part: ListName;
  key: string;
  name: string;
  found: MentionsOut;
}

const SHOWN = 8;

/** Takes entries out: at once when nothing refers to them, else after saying where they are used and what stands in. */
export function useTakeOut(): {
  takeOut: (part: ListName, key: string, name: string) => void;
  dialog: ReactNode;
} {
  const { design, command } = useDesign();
  const [asked, setAsked] = useState<Asked | null>(null);
  const ask = async (part: ListName, key: string, name: string) => {
    const query = { params: { path: { id: design.id }, query: { part, key } } };
    const found = await unwrap(client.GET("/api/designs/{id}/mentions", query)).catch(() => null);
    if (found === null || found.mentions.length > 0)
      setAsked({ part, key, name, found: found ?? { mentions: [], instead: [] } });
    else await command({ do: "take-out", part, key, instead: null }, `removed ${name}`);
  };
  const dialog = asked && (
    <InUseDialog
      asked={asked}
      onClose={() => setAsked(null)}
      onChoose={(instead) => {
        setAsked(null);
        const words = instead ? `removed ${asked.name}, ${instead} in its place` : `removed ${asked.name}`;
        void command({ do: "take-out", part: asked.part, key: asked.key, instead }, words);
      }}
    />
  );
  return { takeOut: (part, key, name) => void ask(part, key, name), dialog };
}

function InUseDialog({
  asked,
  onClose,
  onChoose,
}: {
  asked: Asked;
  onClose: () => void;
  onChoose: (instead: string | null) => void;
}) {
  const { design } = useDesign();
  const { mentions, instead } = asked.found;
  const [chosen, setChosen] = useState(instead[0] ?? "");
  // Workloads are taken out of what names them, and opening stock goes with its route: these need nobody in their place.
  const goesAlone = asked.part === "workloads" || asked.part === "routes";
  const nameOf = (key: string) => {
    const entries = design.document[asked.part] as { id: string; name?: string }[];
    return entries.find((one) => one.id === key)?.name || key;
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="in-use-title" fullWidth maxWidth="sm">
      <DialogTitle id="in-use-title">{asked.name} is in use</DialogTitle>
      <DialogContent>
        <List dense>
          {mentions.slice(0, SHOWN).map((one) => (
            <ListItem key={one.words} disableGutters>
              {one.words}
            </ListItem>
          ))}
          {mentions.length > SHOWN && <ListItem disableGutters>and {mentions.length - SHOWN} more</ListItem>}
        </List>
        {goesAlone && <Typography>It is removed from all of these.</Typography>}
        {!goesAlone && instead.length === 0 && (
          <Typography>There is nothing of its kind that could stand in. Add another first.</Typography>
        )}
        {!goesAlone && instead.length > 0 && (
          <TextField
            select
            fullWidth
            label="In its place"
            value={chosen}
            onChange={(event) => setChosen(event.target.value)}
            sx={{ mt: 1 }}
          >
            {instead.map((key) => (
              <MenuItem key={key} value={key}>
                {nameOf(key)}
              </MenuItem>
            ))}
          </TextField>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Cancel
        </Button>
        {(goesAlone || instead.length > 0) && (
          <Button variant="contained" onClick={() => onChoose(goesAlone ? null : chosen)}>
            {goesAlone ? "Remove it" : "Replace and remove"}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
