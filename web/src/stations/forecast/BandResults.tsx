import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Band, Bands, Swing } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, chanceText, moneyText, writtenDate } from "../../shared/format";
import { saveTable } from "../../shared/saveTable";
import { SmallSeries } from "./SmallSeries";
import { useSeries } from "./useSeries";

/** What the draws come to: each target's band, when it is full with what probability, and what moves it most. */
export function BandResults({ bands }: { bands: Bands }) {
  const { design } = useDesign();
  const { currency = "EUR" } = design.document;
  const series = useSeries().data?.targets ?? [];
  const names = new Map(design.document.targets.map((one) => [one.id, one.name || one.id]));
  const unknowns = new Map((design.document.unknowns ?? []).map((one) => [one.id, one.name || one.id]));
  const save = () =>
    saveTable(
      "draws",
      [
        "target",
        "peak_low",
        "peak_middle",
        "peak_high",
        "full_probability",
        "full_low",
        "full_middle",
        "full_high",
      ],
      bands.bands.map((one) => [
        one.target,
        one.peak_low,
        one.peak_middle,
        one.peak_high,
        one.full_probability,
        one.full_low,
        one.full_middle,
        one.full_high,
      ]),
    );
  return (
    <>
      <Typography data-testid="cost-band">
        All years cost {moneyText(bands.cost.whole_low, currency)} to{" "}
        {moneyText(bands.cost.whole_high, currency)} in eight of ten draws, by what is stored; all else as
        expected.
      </Typography>
      <Table size="small" aria-label="What the draws come to">
        <TableHead>
          <TableRow>
            <TableCell>target</TableCell>
            <TableCell sx={{ width: "26%" }}>eight of ten draws lie in the pale band</TableCell>
            <TableCell align="right">
              <Button onClick={save}>CSV</Button> highest peak
            </TableCell>
            <TableCell>full</TableCell>
            <TableCell sx={{ width: "32%" }}>what moves its peak most</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {bands.bands.map((band) => {
            const own = series.find((one) => one.target === band.target);
            const swings = bands.swings.filter((one) => one.target === band.target).slice(0, 3);
            return (
              <TableRow key={band.target} data-target={band.target}>
                <TableCell component="th" scope="row">
                  {names.get(band.target)}
                </TableCell>
                <TableCell>{own && <SmallSeries series={own} band={band} />}</TableCell>
                <TableCell align="right" sx={{ whiteSpace: "nowrap" }}>
                  {bytesText(band.peak_low)} to {bytesText(band.peak_high)}
                  <Typography variant="body2" color="textSecondary">
                    half of them below {bytesText(band.peak_middle)}
                  </Typography>
                </TableCell>
                <TableCell data-figure="full">
                  <FullWords band={band} />
                </TableCell>
                <TableCell>
                  <SwingBars swings={swings} unknowns={unknowns} />
                </TableCell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
    </>
  );
}

function FullWords({ band }: { band: Band }) {
  if (band.full_probability === null || band.full_probability === undefined) return <>grows with use</>;
  const days = [
    ["a tenth", band.full_low],
    ["half", band.full_middle],
    ["nine tenths", band.full_high],
  ].flatMap(([share, iso]) => (iso ? [`${share} by ${writtenDate(iso)}`] : []));
  return (
    <>
      in {chanceText(band.full_probability)}
      <Typography variant="body2" color="textSecondary">
        {days.join(", ")}
      </Typography>
    </>
  );
}

const QUANTITY: Record<string, string> = {
  annual_growth_percent: "growth",
  daily_change_percent: "change",
  reduction: "reduction",
};

/** From the peak at the low end of an assumption to that at its high end, all others as expected. */
function SwingBars({ swings, unknowns }: { swings: Swing[]; unknowns: Map<string, string> }) {
  const { inks } = useTheme();
  if (swings.length === 0) return <>none of these</>;
  const ends = swings.flatMap((one) => [one.peak_at_low, one.peak_at_high]);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const share = (bytes: number) => (100 * (bytes - low)) / Math.max(1, high - low);
  return (
    <>
      {swings.map((one) => (
        <Box key={`${one.unknown} ${one.quantity}`}>
          <Typography variant="body2" noWrap>
            {QUANTITY[one.quantity]}, {unknowns.get(one.unknown) ?? one.unknown}: {bytesText(one.peak_at_low)}{" "}
            to {bytesText(one.peak_at_high)}
          </Typography>
          <Box
            sx={{
              height: 5,
              ml: `${share(Math.min(one.peak_at_low, one.peak_at_high))}%`,
              width: `${Math.abs(share(one.peak_at_high) - share(one.peak_at_low))}%`,
              minWidth: "2px",
              bgcolor: inks.ramp[4],
            }}
          />
        </Box>
      ))}
    </>
  );
}
