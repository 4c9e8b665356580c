import { Typography } from "@mui/material";
import type { ConsequenceOut } from "../../api/types";
import { useNotFull } from "../../design/useNotFull";
import { bytesText, countText, writtenDate } from "../../shared/format";

export function Headline({ one: { now }, on }: { one: ConsequenceOut; on: string }) {
  const notFull = useNotFull();
  const full = now.full_on
    ? `full on ${writtenDate(now.full_on)}`
    : now.capacity_bytes === null
      ? ""
      : notFull;
  return (
    <>
      <Typography noWrap data-whole>
        {countText(now.points)} points and {bytesText(now.stored_bytes)} at the end of {writtenDate(on)}; peak{" "}
        {bytesText(now.peak_bytes)} on {writtenDate(now.peak_on)}
      </Typography>
      <Typography color={now.full_on ? "error" : "success"} noWrap data-whole>
        {full}
      </Typography>
    </>
  );
}
