import { Box, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import { useDesign } from "../../design/context";
import { useNotFull } from "../../design/useNotFull";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { SmallSeries } from "./SmallSeries";

const WORDS: Record<string, string> = {
  separate: "each point its own file",
  shared: "blocks shared between points",
};

/** A target as it is, and with its packing the other way, side by side. */
export function OtherPacking({ target }: { target: string }) {
  const notFull = useNotFull();
  const { design, on } = useDesign();
  const id = design.id;
  const answer = useQuery({
    queryKey: keys.otherPacking(id, design.revision, target, on),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/other-packing", { params: { path: { id }, query: { target, on } } }),
      ),
    placeholderData: keepPreviousData,
  });
  if (answer.error) return <Notice title="This cannot be computed" error={answer.error} />;
  if (!answer.data) return <Notice title="Packing it the other way…" />;
  const { packing, now, other, now_series, other_series, refused } = answer.data;
  if (!other || !other_series)
    return <Notice title={`It can only be packed so: ${WORDS[packing]}`}>{refused}</Notice>;
  const top = Math.max(now.peak_bytes, other.peak_bytes);
  const sides = [
    { words: WORDS[packing], figures: now, series: now_series },
    { words: WORDS[packing === "shared" ? "separate" : "shared"], figures: other, series: other_series },
  ];
  return (
    <Box sx={{ px: 2, display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)", gap: 3 }}>
      {sides.map(({ words, figures, series }, at) => (
        <div key={words} data-packing={at === 0 ? "now" : "other"}>
          <Typography sx={{ fontWeight: 600 }}>
            {at === 0 ? "As it is" : "The other way"}: {words}
          </Typography>
          <Typography>
            {bytesText(figures.stored_bytes)} and {countText(figures.points)} points on {writtenDate(on)},
            peak {bytesText(figures.peak_bytes)},{" "}
            {figures.full_on
              ? `full on ${writtenDate(figures.full_on)}`
              : figures.capacity_bytes === null
                ? "grows with use"
                : notFull}
          </Typography>
          <SmallSeries series={series} top={top} />
        </div>
      ))}
    </Box>
  );
}
