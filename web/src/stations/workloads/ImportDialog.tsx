import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
  Typography,
} from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { WorkloadRowsOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { FaultyRows } from "../../shared/FaultyRows";
import { countText } from "../../shared/format";
import { Refusal } from "../../shared/Refusal";
import { TableField } from "../../shared/TableField";
import { changesOf } from "./usePaste";

/** Workloads from CSV or a block of a spreadsheet: which column holds what, what each row becomes, every row with a fault. */
export function ImportDialog({ onClose }: { onClose: () => void }) {
  const { design, edit } = useDesign();
  const [text, setText] = useState("");
  const [leaveOut, setLeaveOut] = useState(false);
  const [busy, setBusy] = useState(false);
  const read = useMutation({
    mutationFn: ({ table, columns }: { table: string; columns: (string | null)[] | null }) =>
      unwrap(
        client.POST("/api/designs/{id}/workload-rows", {
          params: { path: { id: design.id } },
          body: { text: table, columns, header: true, block: false },
        }),
      ),
  });
  const look = (table: string, columns: (string | null)[] | null = null) => {
    setText(table);
    setLeaveOut(false);
    if (table.trim()) read.mutate({ table, columns });
    else read.reset();
  };
  const found = read.data?.read;
  const changes = found ? changesOf(found) : [];
  const take = async () => {
    setBusy(true);
    const saved = await edit(changes, `imported ${countText(changes.length)} workloads`);
    setBusy(false);
    if (saved) onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="import-title" fullWidth maxWidth="lg">
      <DialogTitle id="import-title">Import workloads</DialogTitle>
      <DialogContent>
        <TableField
          label="Paste a table here; its first row names the columns"
          value={text}
          onChange={(table) => look(table)}
        />
        <Refusal error={read.error} />
        {read.data && <Preview out={read.data} onColumns={(columns) => look(text, columns)} />}
        <FaultyRows faults={found?.faults ?? []} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          loading={busy}
          disabled={changes.length === 0 || ((found?.faults.length ?? 0) > 0 && !leaveOut)}
          onClick={() => void take()}
        >
          Import these rows
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Preview({
  out,
  onColumns,
}: {
  out: WorkloadRowsOut;
  onColumns: (columns: (string | null)[]) => void;
}) {
  const { columns, header, rows, faults, skipped, sample } = out.read;
  const count = (action: string) => rows.filter((row) => row.action === action).length;
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography data-testid="import-read">
        {countText(count("new"))} new, {countText(count("changed"))} changed, {countText(count("same"))} as
        they are, {countText(faults.length)} with a fault.
      </Typography>
      {skipped.length > 0 && (
        <Box component="ul" aria-label="Rows that are left out" sx={{ m: 0, pl: 2.5 }}>
          {skipped.map((one) => (
            <li key={one.line}>
              Line {one.line} is left out, since {one.reason}: {one.words}
            </li>
          ))}
        </Box>
      )}
      <Box sx={{ overflow: "auto", pt: 1 }} tabIndex={0}>
        <Box
          component="table"
          sx={{ borderCollapse: "collapse", "& th, & td": { px: 0.75, py: 0.25, textAlign: "left" } }}
        >
          <thead>
            <tr>
              {columns.map((column, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their place
                <th key={at} scope="col">
                  <TextField
                    select
                    value={column ?? ""}
                    onChange={(event) =>
                      onColumns(
                        columns.map((one, place) => (place === at ? event.target.value || null : one)),
                      )
                    }
                    label={header?.[at] ?? `Column ${at + 1}`}
                    sx={{ minWidth: 120 }}
                    slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
                  >
                    <MenuItem value="">leave out</MenuItem>
                    {out.fields.map((field) => (
                      <MenuItem key={field} value={field} dense>
                        {field.replaceAll("_", " ")}
                      </MenuItem>
                    ))}
                  </TextField>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sample.map((cells, row) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows are known by their place
              <tr key={row}>
                {cells.map((cell, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: cells are known by their place
                  <td key={at}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
