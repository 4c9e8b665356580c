import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { area, stack } from "d3-shape";
import { useMemo } from "react";
import { client, unwrap } from "../../api/client";
import type { By, SplitSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useWidth } from "../../shared/useWidth";
import { inkOf } from "./partInks";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { useReading } from "./useReading";
import type { Span } from "./useSpan";
import { YearTicks } from "./YearTicks";

const LEFT = 62;
const RIGHT = 8;
const TOP = 10;
const BOTTOM = 190;
const HEIGHT = 210;

/** What a target holds through the years, told apart; its parts add up to what is stored. Arrow keys read the values. */
export function SplitChart({ target, by, span }: { target: string; by: By; span: Span }) {
  const { design, on } = useDesign();
  const id = design.id;
  const answer = useQuery({
    queryKey: ["split", id, design.revision, target, by, on, span],
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/split", {
          params: { path: { id }, query: { target, by, most: 300, ...(span ?? { on }) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  if (answer.error) return <Notice title="This cannot be told apart" error={answer.error} />;
  if (!answer.data) return <Notice title="Telling it apart…" />;
  return <Drawn split={answer.data.split} />;
}

function Drawn({ split }: { split: SplitSeries }) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const { places, parts } = split;
  const layers = useMemo(() => {
    const rows = places.map((_, at) => parts.map((part) => part.stored_bytes[at] ?? 0));
    return stack<number[], number>()
      .keys(parts.map((_, at) => at))
      .value((row, key) => row[key] ?? 0)(rows);
  }, [places, parts]);
  const top = Math.max(1, ...(layers.at(-1)?.map((one) => one[1]) ?? []));
  const x = scaleLinear([places[0] ?? 0, places.at(-1) ?? 1], [LEFT, width - RIGHT]).clamp(true);
  const y = scaleLinear([0, top], [BOTTOM, TOP]).nice(4);
  const reading = useReading(places, place, x);
  const { at } = reading;
  return (
    <Box ref={ref}>
      <ReadableChart width={width} height={HEIGHT} label={`Stored bytes by ${split.by}`} reading={reading}>
        <ByteTicks y={y} left={LEFT} right={width - RIGHT} />
        {layers.map((layer, part) => (
          <path
            key={parts[part]?.name}
            d={
              area<[number, number]>(
                (_, day) => x(places[day] ?? 0),
                (one) => y(one[0]),
                (one) => y(one[1]),
              )(layer as unknown as [number, number][]) ?? ""
            }
            fill={inkOf(parts[part]?.name ?? "", part, inks)}
            stroke={inks.surface}
            strokeWidth={0.6}
          />
        ))}
        <YearTicks x={x} days={days} top={BOTTOM} />
        <line x1={x(places[at] ?? 0)} x2={x(places[at] ?? 0)} y1={TOP} y2={BOTTOM} stroke={inks.ink} />
      </ReadableChart>
      <Typography variant="body2" color="textSecondary" aria-live="polite">
        {writtenDate(days.dates[places[at] ?? 0] ?? "")}
      </Typography>
      <Box
        component="ul"
        sx={{ m: 0, p: 0, listStyle: "none", display: "flex", flexWrap: "wrap", columnGap: 2 }}
      >
        {parts.map((part, number) => (
          <Box component="li" key={part.name} data-part={part.name} sx={{ fontSize: 13 }}>
            <Box
              component="span"
              sx={{
                display: "inline-block",
                width: 10,
                height: 10,
                mr: 0.75,
                bgcolor: inkOf(part.name, number, inks),
              }}
            />
            {part.name}: {bytesText(part.stored_bytes[at] ?? 0)}, {countText(part.points[at] ?? 0)}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
