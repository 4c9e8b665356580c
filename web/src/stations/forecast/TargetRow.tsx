import { memo } from "react";
import type { Band, OverviewRow, Series, SpineRow } from "../../api/types";
import { useNotFull } from "../../design/useNotFull";
import { bytesText, chanceText, countText, moneyText, writtenDate } from "../../shared/format";
import { SmallSeries } from "./SmallSeries";
import { SmallShelf } from "./SmallShelf";

interface Props {
  row: OverviewRow;
  currency: string;
  series: Series | undefined;
  band: Band | undefined;
  spines: SpineRow[];
  onShow: (target: string) => void;
}

/** The looks of all rows at once: rows are drawn anew for every date, so they are plain elements. */
export const ROWS_LOOK = {
  "& ul": { m: 0, p: 0, listStyle: "none" },
  "& .axis, & .target > button": {
    boxSizing: "border-box",
    width: "100%",
    display: "grid",
    gridTemplateColumns: "204px 172px minmax(0, 1fr) minmax(0, 1fr)",
    gap: 2,
    alignItems: "center",
    px: 2,
  },
  "& .axis": { position: "sticky", top: 0, zIndex: 1, bgcolor: "background.default" },
  "& .axis p": { m: 0, whiteSpace: "nowrap" },
  "& .axis, & .target": { borderBottom: 1, borderColor: "divider" },
  "& .target > button": {
    cursor: "pointer",
    height: 71,
    border: 0,
    m: 0,
    py: 0,
    bgcolor: "transparent",
    color: "inherit",
    font: "inherit",
    textAlign: "left",
    "&:hover": { bgcolor: "background.paper" },
    "&:focus-visible": { outline: "2px solid", outlineOffset: -2, outlineColor: "primary.main" },
  },
  "& .target p": { m: 0, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" },
  "& .name": { fontWeight: 600, "&&": { whiteSpace: "normal" } },
  "& .aside": { typography: "body2", color: "text.secondary" },
  "& .aside.breaks": { color: "error.main" },
} as const;

/** A target in one line: its figures, its bytes through time, its shelf. Enter shows it alone. */
export const TargetRow = memo(function TargetRow({ row, currency, series, band, spines, onShow }: Props) {
  const notFull = useNotFull();
  const risk = band?.full_probability;
  return (
    <li className="target">
      <button
        type="button"
        onClick={() => onShow(row.target)}
        aria-label={`Show ${row.name} alone`}
        data-target={row.target}
      >
        <div>
          <p className="name">{row.name}</p>
          <p className={row.full_on ? "aside breaks" : "aside"} data-figure="full">
            {fullWords(row, notFull)}
          </p>
          {risk !== undefined && risk !== null && <p className="aside">full in {chanceText(risk)}</p>}
        </div>
        <div>
          <p>
            <span data-figure="stored">{bytesText(row.stored_on)}</span>,{" "}
            <span data-figure="points">{countText(row.points_on)}</span> points
          </p>
          <p className="aside">peak {bytesText(row.peak)}</p>
          <p className="aside" data-figure="cost">
            {moneyText(row.cost_month, currency)} a month
          </p>
        </div>
        {series ? <SmallSeries series={series} band={band} /> : <span />}
        <SmallShelf rows={spines} height={63} />
      </button>
    </li>
  );
});

function fullWords(row: OverviewRow, notFull: string): string {
  if (row.full_on) return `full on ${writtenDate(row.full_on)}`;
  return row.room_on === null ? "grows with use" : notFull;
}
