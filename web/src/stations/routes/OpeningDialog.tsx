import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { WHOLE } from "../../api/types";
import { stockOf } from "../../design/changes";
import { useDesign } from "../../design/context";
import { FaultyRows } from "../../shared/FaultyRows";
import { countText } from "../../shared/format";
import { Refusal } from "../../shared/Refusal";
import { TableField } from "../../shared/TableField";

const SHOWN = 200;

/** Opening stock: points that are there when the design starts, from CSV or a pasted block, after a look at every row. */
export function OpeningDialog({ onClose }: { onClose: () => void }) {
  const { design, save } = useDesign();
  const [text, setText] = useState("");
  const [leaveOut, setLeaveOut] = useState(false);
  const there = design.document.opening ?? [];
  const read = useMutation({
    mutationFn: (table: string) =>
      unwrap(
        client.POST("/api/designs/{id}/opening-rows", {
          params: { path: { id: design.id } },
          body: { text: table },
        }),
      ),
  });
  const look = (table: string) => {
    setText(table);
    setLeaveOut(false);
    if (table.trim()) read.mutate(table);
    else read.reset();
  };
  const points = read.data?.points ?? [];
  const faults = read.data?.faults ?? [];
  const keep = async (opening: typeof points, what: string) => {
    if (await save("stock", WHOLE, { ...stockOf(design.document), opening }, what)) onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="opening-title" fullWidth maxWidth="md">
      <DialogTitle id="opening-title">Opening stock</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>
          {there.length === 0
            ? "Nothing is there yet when the design starts."
            : `${countText(there.length)} points are there when the design starts.`}{" "}
          A table with the columns route, copy, workload, taken, kind and size takes their place.
        </Typography>
        {there.length > 0 && (
          <Box
            component="ul"
            aria-label="Opening stock that is there"
            tabIndex={0} // it scrolls, from the keyboard too
            sx={{ m: 0, mb: 1, pl: 2, maxHeight: 130, overflow: "auto" }}
          >
            {there.slice(0, SHOWN).map((one) => (
              <li key={`${one.route}/${one.copy}/${one.workload}/${one.taken}/${one.kind}`}>
                {one.taken.replace("T", " ")}, {one.kind} of {one.workload} on {one.route}: {one.copy}
                {one.size == null ? "" : `, ${one.size}`}
              </li>
            ))}
            {there.length > SHOWN && <li>and {countText(there.length - SHOWN)} more</li>}
          </Box>
        )}
        <TableField label="Paste the table here" value={text} onChange={look} />
        <Refusal error={read.error} />
        {read.data && (
          <Typography sx={{ mt: 1 }} data-testid="opening-read">
            {countText(points.length)} points read, {countText(faults.length)} rows with a fault.
          </Typography>
        )}
        <FaultyRows faults={faults} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1 }} />
        {there.length > 0 && (
          <Button color="error" onClick={() => void keep([], "opening stock emptied")}>
            Remove all points
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={points.length === 0 || (faults.length > 0 && !leaveOut)}
          onClick={() => void keep(points, `${points.length} points of opening stock`)}
        >
          Import these points
        </Button>
      </DialogActions>
    </Dialog>
  );
}
