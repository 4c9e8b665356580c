import { Box, Typography } from "@mui/material";
import type { ConsequenceOut, Series, ShelfOfCopy } from "../../api/types";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { Shelf } from "../../shared/Shelf";
import { SmallSeries } from "./SmallSeries";

interface Props {
  one: ConsequenceOut;
  series: Series | undefined;
  shelves: ShelfOfCopy[];
  chosen: boolean;
  onChoose: () => void;
}

/** A target in one line: its figures, its bytes through time, its shelf. */
export function TargetRow({ one: { now }, series, shelves, chosen, onChoose }: Props) {
  return (
    <Box
      role="listitem"
      sx={{ borderBottom: 1, borderColor: "divider", bgcolor: chosen ? "background.paper" : "transparent" }}
    >
      <Box
        component="button"
        type="button"
        onClick={onChoose}
        aria-pressed={chosen}
        aria-label={`Show ${now.name} large`}
        data-target={now.target}
        sx={{
          all: "unset",
          boxSizing: "border-box",
          cursor: "pointer",
          width: "100%",
          display: "grid",
          gridTemplateColumns: "138px 60px 80px 178px 1fr 1fr",
          gap: 2,
          alignItems: "center",
          px: 2,
          height: 45,
          borderLeft: 3,
          borderColor: chosen ? "primary.main" : "transparent",
          "&:focus-visible": { outline: "2px solid", outlineOffset: -2, outlineColor: "primary.main" },
        }}
      >
        <Typography sx={{ fontWeight: 600 }}>{now.name}</Typography>
        <Typography sx={{ textAlign: "right" }} data-figure="points">
          {countText(now.points)}
        </Typography>
        <Typography sx={{ textAlign: "right" }} data-figure="stored">
          {bytesText(now.stored_bytes)}
        </Typography>
        <Typography variant="body2" color={now.full_on ? "error" : "text.secondary"} data-figure="full">
          {now.full_on
            ? `full on ${writtenDate(now.full_on)}`
            : now.capacity_bytes === null
              ? "grows with use"
              : "never full"}
        </Typography>
        {series ? <SmallSeries series={series} /> : <span />}
        <Shelf shelves={shelves} height={41} />
      </Box>
    </Box>
  );
}
