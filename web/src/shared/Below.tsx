import { Box, Stack, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { Choice } from "./Choice";

interface Props<K extends string> {
  label: string;
  value: K;
  options: Record<K, string>;
  onChange: (value: K) => void;
  children: ReactNode;
}

/** What stands below a chart, one of several by choice; it scrolls by itself, from the keyboard too. */
export function Below<K extends string>({ label, value, options, onChange, children }: Props<K>) {
  return (
    <>
      <Stack
        direction="row"
        sx={{ px: 2, py: 0.5, gap: 1, alignItems: "center", borderTop: 1, borderColor: "divider" }}
      >
        <Typography color="textSecondary">Below</Typography>
        <Choice label={label} value={value} options={options} disabled={false} onChange={onChange} />
      </Stack>
      <Box
        tabIndex={0}
        role="region"
        aria-label={options[value]}
        sx={{ flex: 1, minHeight: 0, overflow: "auto", display: "flex", flexDirection: "column" }}
      >
        {children}
      </Box>
    </>
  );
}
