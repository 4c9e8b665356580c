import { Button, Stack, TextField } from "@mui/material";
import type { ChangeEvent } from "react";

interface Props {
  label: string;
  value: string;
  onChange: (text: string) => void;
}

/** A table that is pasted, or read from a file. */
export function TableField({ label, value, onChange }: Props) {
  const openFile = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    if (file) onChange(await file.text());
  };
  return (
    <Stack direction="row" sx={{ gap: 1, alignItems: "flex-start", mt: 1 }}>
      <TextField
        multiline
        fullWidth
        minRows={4}
        maxRows={8}
        label={label}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        slotProps={{ htmlInput: { style: { fontFamily: "monospace", fontSize: 13 } } }}
      />
      <Button component="label" sx={{ whiteSpace: "nowrap" }}>
        From a file
        <input type="file" accept=".csv,.tsv,.txt,text/csv" hidden onChange={openFile} />
      </Button>
    </Stack>
  );
}
