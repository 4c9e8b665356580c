import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { ConsequenceOut } from "../api/types";
import { useDesign, useShownFigures } from "../design/context";
import { bytesText, countText, writtenDate } from "../shared/format";

/** What an edit did to the targets, for those who hear the page: said once, with names, when the figures have come. */
export function WhatItDid() {
  const { design, on } = useDesign();
  const { consequences, tried } = useShownFigures();
  const [words, setWords] = useState("");
  const before = useRef<{ on: string; targets: readonly ConsequenceOut[] } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is told of each revision, not of each date
  useEffect(() => {
    if (!consequences || tried) return;
    const last = before.current;
    before.current = { on, targets: consequences.targets };
    if (last && last.on === on) setWords(differences(last.targets, consequences.targets));
  }, [design.revision, consequences]);
  return (
    <Box role="status" aria-label="What the edit did" sx={HEARD}>
      {words}
    </Box>
  );
}

function differences(before: readonly ConsequenceOut[], now: readonly ConsequenceOut[]): string {
  const were = new Map(before.map(({ now: one }) => [one.target, one]));
  const changed = now
    .map(({ now: one }) => ({ one, was: were.get(one.target) }))
    .filter(({ one, was }) => was && (was.stored_bytes !== one.stored_bytes || was.full_on !== one.full_on));
  if (changed.length === 0) return "";
  const said = changed.slice(0, 3).map(({ one }) => {
    const full = one.full_on ? `, full on ${writtenDate(one.full_on)}` : "";
    return `${one.name} ${bytesText(one.stored_bytes)} stored${full}`;
  });
  const more = changed.length - said.length;
  return `${said.join("; ")}${more > 0 ? `; ${countText(more)} more targets` : ""}.`;
}

const HEARD = {
  position: "absolute",
  width: 1,
  height: 1,
  overflow: "hidden",
  clipPath: "inset(50%)",
  whiteSpace: "nowrap",
} as const;
