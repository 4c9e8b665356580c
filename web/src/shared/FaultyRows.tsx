import { Box, Checkbox, FormControlLabel } from "@mui/material";

interface Props {
  faults: readonly { line: number; field: string; message: string }[];
  leaveOut: boolean;
  onLeaveOut: (leaveOut: boolean) => void;
}

/** Every row of a table that cannot be read. Nothing is imported until they are mended, or left out by word. */
export function FaultyRows({ faults, leaveOut, onLeaveOut }: Props) {
  if (faults.length === 0) return null;
  const lines = new Set(faults.map((fault) => fault.line)).size;
  return (
    <Box sx={{ mt: 1 }}>
      <Box
        component="ul"
        aria-label="Rows with a fault"
        tabIndex={0} // it scrolls, from the keyboard too
        sx={{ m: 0, pl: 2, maxHeight: 160, overflow: "auto", color: "error.main" }}
      >
        {faults.map((fault) => (
          <li key={`${fault.line}/${fault.field}/${fault.message}`}>
            Line {fault.line}
            {fault.field && `, ${fault.field}`}: {fault.message}
          </li>
        ))}
      </Box>
      <FormControlLabel
        control={<Checkbox size="small" checked={leaveOut} onChange={(_, checked) => onLeaveOut(checked)} />}
        label={lines === 1 ? "Leave this row out" : `Leave these ${lines} rows out`}
      />
    </Box>
  );
}
