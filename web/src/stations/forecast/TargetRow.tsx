import { Box, Typography } from "@mui/material";
import { useNavigate } from "react-router";
import type { Band, OverviewRow, Series, ShelfOfCopy } from "../../api/types";
import { bytesText, chanceText, countText, moneyText, writtenDate } from "../../shared/format";
import { Shelf } from "../../shared/Shelf";
import { SmallSeries } from "./SmallSeries";

interface Props {
  row: OverviewRow;
  currency: string;
  series: Series | undefined;
  band: Band | undefined;
  shelves: ShelfOfCopy[];
}

/** A target in one line: its figures, its bytes through time, its shelf. Enter shows it alone. */
export function TargetRow({ row, currency, series, band, shelves }: Props) {
  const navigate = useNavigate();
  const risk = band?.full_probability;
  return (
    <Box role="listitem" sx={{ borderBottom: 1, borderColor: "divider" }}>
      <Box
        component="button"
        type="button"
        onClick={() => navigate(`/forecast/target/${encodeURIComponent(row.target)}`)}
        aria-label={`Show ${row.name} alone`}
        data-target={row.target}
        sx={{
          all: "unset",
          boxSizing: "border-box",
          cursor: "pointer",
          width: "100%",
          display: "grid",
          gridTemplateColumns: "204px 172px minmax(0, 1fr) minmax(0, 1fr)",
          gap: 2,
          alignItems: "center",
          px: 2,
          height: 71,
          "&:hover": { bgcolor: "background.paper" },
          "&:focus-visible": { outline: "2px solid", outlineOffset: -2, outlineColor: "primary.main" },
        }}
      >
        <div>
          <Typography sx={{ fontWeight: 600 }}>{row.name}</Typography>
          <Typography
            variant="body2"
            color={row.full_on ? "error" : "text.secondary"}
            data-figure="full"
            noWrap
          >
            {row.full_on
              ? `full on ${writtenDate(row.full_on)}`
              : row.room_on === null
                ? "grows with use"
                : "never full"}
          </Typography>
          {risk !== undefined && risk !== null && (
            <Typography variant="body2" color="textSecondary" noWrap>
              full in {chanceText(risk)}
            </Typography>
          )}
        </div>
        <div>
          <Typography noWrap>
            <span data-figure="stored">{bytesText(row.stored_on)}</span>,{" "}
            <span data-figure="points">{countText(row.points_on)}</span> points
          </Typography>
          <Typography variant="body2" color="textSecondary" noWrap>
            peak {bytesText(row.peak)}
          </Typography>
          <Typography variant="body2" color="textSecondary" noWrap data-figure="cost">
            {moneyText(row.cost_month, currency)} a month
          </Typography>
        </div>
        {series ? <SmallSeries series={series} band={band} /> : <span />}
        <Shelf shelves={shelves} height={63} />
      </Box>
    </Box>
  );
}
