import { Box, Button, Stack, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { Choice } from "./Choice";

interface Props<K extends string> {
  label: string;
  value: K;
  options: Record<K, string>;
  onChange: (value: K) => void;
  /** Whether it has the whole page, and what changes that. */
  alone: boolean;
  onAlone: (alone: boolean) => void;
  children: ReactNode;
}

/** What stands below a chart, one of several by choice, or alone; it scrolls by itself, from the keyboard too. */
export function Below<K extends string>(props: Props<K>) {
  const { label, value, options, onChange, alone, onAlone, children } = props;
  return (
    <>
      <Stack
        direction="row"
        sx={{ px: 2, py: 0.5, gap: 1, alignItems: "center", borderTop: 1, borderColor: "divider" }}
      >
        <Typography color="textSecondary">{alone ? "Alone" : "Below"}</Typography>
        <Choice label={label} value={value} options={options} disabled={false} onChange={onChange} />
        <Button onClick={() => onAlone(!alone)} sx={{ ml: "auto" }}>
          {alone ? "Under the chart again" : "The whole page for this"}
        </Button>
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
