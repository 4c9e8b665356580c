import { Stack, TextField, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { FileButton } from "./FileButton";
import { Refusal } from "./Refusal";

interface Props {
  label: string;
  value: string;
  onChange: (text: string) => void;
  /** What kinds of file are taken; without it tables, workbooks among them. */
  accept?: string;
}

const TABLES = ".csv,.tsv,.txt,text/csv,.xlsx";

/** A text that is pasted, or read from a file. The server reads files: of a workbook the first sheet that holds anything. */
export function TableField({ label, value, onChange, accept = TABLES }: Props) {
  const open = useMutation({
    mutationFn: async (file: File) => firstTable(file),
    onSuccess: (table) => onChange(table.text),
  });
  return (
    <>
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
        <FileButton accept={accept} loading={open.isPending} onFile={(file) => open.mutate(file)}>
          From a file
        </FileButton>
      </Stack>
      <Typography variant="body2" color="textSecondary" role="status">
        {open.data?.readAs && open.data.readAs !== "UTF-8" && open.data.text === value
          ? `The file was read as ${open.data.readAs}: look whether its letters are right.`
          : ""}
      </Typography>
      <Refusal error={open.error} />
    </>
  );
}

async function firstTable(file: File): Promise<{ text: string; readAs: string }> {
  const letters = new Uint8Array(await file.arrayBuffer()).reduce(
    (text, byte) => text + String.fromCharCode(byte),
    "",
  );
  const { sheets } = await unwrap(client.POST("/api/workbooks", { body: { content: btoa(letters) } }));
  return { text: sheets[0]?.text ?? "", readAs: sheets[0]?.read_as ?? "" };
}
