import { Box, Tooltip } from "@mui/material";
import type { ReactNode } from "react";
import { VOCABULARY } from "../api/generated/vocabulary";

export type Term = keyof typeof VOCABULARY.glossary;

interface Props {
  term: Term;
  children: ReactNode;
}

/** A word of our own with its meaning on hover and on focus, so that nobody has to look elsewhere what is meant. */
export function Word({ term, children }: Props) {
  return (
    <Tooltip title={`${term}: ${VOCABULARY.glossary[term]}`} describeChild>
      <Box
        component="span"
        tabIndex={0}
        sx={{ borderBottom: "1px dotted", borderColor: "text.secondary", cursor: "help" }}
      >
        {children}
      </Box>
    </Tooltip>
  );
}
