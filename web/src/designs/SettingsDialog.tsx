import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Stack,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { type Settings, WHOLE } from "../api/types";
import { settingsOf } from "../design/changes";
import { useDesign } from "../design/context";
import { DateField } from "../shared/DateField";
import { WEEKDAY_NAMES } from "../shared/words";
import { TimeZones, ZONES_ID } from "./TimeZones";

/** What a design says of itself: its name, zone, first day, length, first weekday, currency. */
export function SettingsDialog({ onClose }: { onClose: () => void }) {
  const { design, save, canEdit } = useDesign();
  const [draft, setDraft] = useState<Settings>(settingsOf(design.document));
  const set = (change: Partial<Settings>) => setDraft({ ...draft, ...change });
  const keep = async () => {
    if (await save("settings", WHOLE, draft, "the settings of the design")) onClose();
  };
  const field = { disabled: !canEdit, fullWidth: true } as const;
  return (
    <Dialog open onClose={onClose} aria-labelledby="settings-title" fullWidth maxWidth="xs">
      <DialogTitle id="settings-title">Settings of the design</DialogTitle>
      <DialogContent>
        <Stack spacing={2} sx={{ pt: 1 }}>
          <TextField
            {...field}
            label="Name of the design"
            value={draft.name}
            onChange={(event) => set({ name: event.target.value })}
          />
          <TextField
            {...field}
            label="Time zone"
            value={draft.timezone}
            onChange={(event) => set({ timezone: event.target.value })}
            slotProps={{ htmlInput: { list: ZONES_ID } }}
          />
          <TimeZones />
          <DateField
            {...field}
            label="Starts on"
            value={draft.starts}
            onChange={(starts) => set({ starts })}
          />
          <TextField
            {...field}
            label="Years ahead"
            type="number"
            value={draft.years}
            onChange={(event) => set({ years: Number(event.target.value) })}
          />
          <TextField
            {...field}
            select
            label="Weeks begin on"
            value={draft.week_starts}
            onChange={(event) =>
              set({ week_starts: event.target.value as NonNullable<Settings["week_starts"]> })
            }
          >
            {Object.entries(WEEKDAY_NAMES).map(([code, day]) => (
              <MenuItem key={code} value={code}>
                {day}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            {...field}
            label="Currency of prices"
            value={draft.currency ?? "EUR"}
            onChange={(event) => set({ currency: event.target.value.toUpperCase() })}
          />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{canEdit ? "Cancel" : "Close"}</Button>
        {canEdit && (
          <Button variant="contained" onClick={() => void keep()}>
            Save
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
