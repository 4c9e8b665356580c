import { Box, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { Explanation } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { bytesText, countText } from "../../shared/format";
import { Notice } from "../../shared/Notice";

const ALL = "all";

/** The sum behind the points of a target at the as-of date, in sentences and as a sum. */
export function Why({ target }: { target: string }) {
  const { design, on } = useDesign();
  const id = design.id;
  const [copy, setCopy] = useState(ALL);
  const query = { target, on, ...(copy === ALL ? {} : { of_copy: copy }) };
  const answer = useQuery({
    queryKey: ["explanation", id, design.revision, query],
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
      <Sum explanation={explanation} />
    </Box>
  );
}

function Sum({ explanation }: { explanation: Explanation }) {
  const { inks } = useTheme();
  const kept = explanation.states.find((one) => one.names[0] === "kept")?.points ?? 0;
  const counted = explanation.by_rule.reduce((sum, one) => sum + one.points, 0);
  const rows: { name: string; points: number; bytes: number | null; ink: string }[] = [
    ...explanation.by_rule.map((one) => ({
      name: `by ${one.names.join(" and ")}`,
      points: one.points,
      bytes: one.stored_bytes,
      ink: inks.ramp[4] ?? inks.plum,
    })),
    ...(counted === kept
      ? []
      : [{ name: "counted by more than one rule", points: kept - counted, bytes: null, ink: inks.hairline }]),
    ...explanation.states
      .filter((one) => one.names[0] !== "kept")
      .map((one) => ({
        name: { locked: "only locked", needed: "only needed", due: "due" }[one.names[0] ?? ""] ?? "",
        points: one.points,
        bytes: one.stored_bytes,
        ink: { locked: inks.brass, needed: inks.slate, due: inks.muted }[one.names[0] ?? ""] ?? inks.muted,
      })),
  ];
  const widest = Math.max(1, ...rows.map((row) => Math.abs(row.points)));
  return (
    <Box component="table" aria-label="The sum" sx={{ borderSpacing: "0 1px", width: "100%" }}>
      <tbody>
        {rows.map((row) => (
          <tr key={row.name}>
            <Cell>{row.name}</Cell>
            <td style={{ width: "34%" }}>
              <Box
                sx={{
                  height: 10,
                  width: `${(100 * Math.abs(row.points)) / widest}%`,
                  bgcolor: row.ink,
                }}
              />
            </td>
            <Cell right>{countText(row.points)}</Cell>
            <Cell right>{row.bytes === null ? "" : bytesText(row.bytes)}</Cell>
          </tr>
        ))}
        <tr>
          <Cell strong>together</Cell>
          <td />
          <Cell right strong>
            <span data-testid="why-points">{countText(explanation.points)}</span>
          </Cell>
          <Cell right strong>
            {bytesText(explanation.stored_bytes)}
          </Cell>
        </tr>
      </tbody>
    </Box>
  );
}

function Cell({ children, right, strong }: { children: React.ReactNode; right?: boolean; strong?: boolean }) {
  return (
    <Box
      component="td"
      sx={{
        textAlign: right ? "right" : "left",
        fontWeight: strong ? 600 : 400,
        pr: 1.5,
        borderTop: strong ? 1 : 0,
        borderColor: "divider",
      }}
    >
      {children}
    </Box>
  );
}
