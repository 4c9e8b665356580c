import { Box, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Explanation } from "../../api/types";
import { useDesign } from "../../design/context";
import type { RankedRow } from "../../shared/barsDrawing";
import { Choice } from "../../shared/Choice";
import { bytesText, countText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { RankedBars, SaveBars } from "../../shared/RankedBars";
import type { Inks } from "../../theme/palette";

const ALL = "all";

/** The sum behind the points of a target at the as-of date, in sentences and as a sum. */
export function Why({ target }: { target: string }) {
  const { design, on } = useDesign();
  const id = design.id;
  const [copy, setCopy] = useState(ALL);
  const query = { target, on, ...(copy === ALL ? {} : { of_copy: copy }) };
  const answer = useQuery({
    queryKey: keys.explanation(id, design.revision, query),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/explanation", { params: { path: { id }, query } })),
    placeholderData: keepPreviousData,
  });
  if (answer.error) return <Notice title="This cannot be explained" error={answer.error} />;
  if (!answer.data) return <Notice title="Counting…" />;
  const { explanation, copies } = answer.data;
  const options = Object.fromEntries([[ALL, "all copies"], ...copies.map((name) => [name, name])]);
  return (
    <Box
      sx={{
        px: 2,
        pb: 1,
        display: "grid",
        gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)",
        columnGap: 4,
      }}
    >
      <div>
        <Stack direction="row" sx={{ gap: 1, alignItems: "center", mb: 0.5 }}>
          <Typography color="textSecondary">of</Typography>
          <Choice
            label="Explained copy"
            value={copies.includes(copy) ? copy : ALL}
            options={options}
            disabled={false}
            onChange={setCopy}
          />
        </Stack>
        <div data-testid="why">
          {explanation.sentences.map((sentence) => (
            <Typography key={sentence}>{sentence}</Typography>
          ))}
        </div>
      </div>
      <Sum explanation={explanation} file={`sum-of-${target}-${on}`} />
    </Box>
  );
}

function Sum({ explanation, file }: { explanation: Explanation; file: string }) {
  const { inks } = useTheme();
  const rows = summands(explanation, inks);
  const label = "The sum behind the points";
  return (
    <div>
      <RankedBars label="The sum" rows={rows.map(barOf)} />
      <Box sx={{ textAlign: "right" }}>
        <SaveBars
          label={label}
          rows={rows.map(barOf)}
          file={file}
          columns={["why", "points", "stored_bytes"]}
          cells={rows.map((row) => [row.name, row.points, row.bytes])}
        />
      </Box>
    </div>
  );
}

interface Summand {
  name: string;
  points: number;
  bytes: number | null;
  ink: string;
  isSum?: boolean;
}

function barOf(row: Summand): RankedRow {
  return {
    key: row.name,
    name: row.name,
    value: row.isSum ? 0 : row.points,
    ink: row.ink,
    figures: [countText(row.points), row.bytes === null ? "" : bytesText(row.bytes)],
    isSum: row.isSum ?? false,
  };
}

/** So many by each rule, less what more than one rule counts, and what is there for other reasons. */
function summands(explanation: Explanation, inks: Inks): Summand[] {
  const twice = {
    name: "counted by more than one rule",
    points: -explanation.counted_too_often,
    bytes: null,
    ink: inks.hairline,
  };
  const names: Record<string, [string, string]> = {
    locked: ["only locked", inks.brass],
    needed: ["only needed", inks.slate],
    due: ["due", inks.muted],
  };
  const others = explanation.states.flatMap((one) => {
    const [name, ink] = names[one.names[0] ?? ""] ?? [];
    return name && ink ? [{ name, points: one.points, bytes: one.stored_bytes, ink }] : [];
  });
  return [
    ...explanation.by_rule.map((one) => ({
      name: `by ${one.names.join(" and ")}`,
      points: one.points,
      bytes: one.stored_bytes,
      ink: inks.ramp[4] ?? inks.plum,
    })),
    ...(explanation.counted_too_often === 0 ? [] : [twice]),
    ...others,
    {
      name: "together",
      points: explanation.points,
      bytes: explanation.stored_bytes,
      ink: inks.ink,
      isSum: true,
    },
  ];
}
