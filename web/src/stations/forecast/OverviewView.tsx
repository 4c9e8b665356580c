import { Box, Stack, Typography } from "@mui/material";
import { memo, type RefObject, useCallback, useMemo, useRef } from "react";
import { useNavigate } from "react-router";
import type { SpineRow } from "../../api/types";
import { useDesign } from "../../design/context";
import { useBands } from "../../design/useJob";
import { Choice } from "../../shared/Choice";
import { DownloadMenu } from "../../shared/DownloadMenu";
import { moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { savePicture } from "../../shared/savePicture";
import { monthText } from "../../shared/style";
import { useAddressed } from "../../shared/useAddressed";
import { OverviewAxis } from "./OverviewAxis";
import { OverviewTable } from "./OverviewTable";
import { overviewDrawing } from "./overviewDrawing";
import { ROWS_LOOK, TargetRow } from "./TargetRow";
import { useOverview } from "./useOverview";
import { useSeries } from "./useSeries";

const NOTHING: SpineRow[] = [];
const AS = { picture: "pictures", table: "a table" };

/** All targets on one page, what needs attention first. */
export function OverviewView() {
  const { on } = useDesign();
  const navigate = useNavigate();
  const list = useRef<HTMLDivElement>(null);
  const [as, setAs] = useAddressed("as", AS, "picture");
  const answer = useOverview();
  const series = useSeries();
  const bands = useBands();
  const spines = useMemo(() => byTarget(answer.data?.spines ?? []), [answer.data]);
  const show = useCallback(
    (target: string) => navigate(`/forecast/target/${encodeURIComponent(target)}`),
    [navigate],
  );
  const error = answer.error ?? series.error;
  if (error) return <Notice title="The forecast cannot be shown" error={error} />;
  if (!answer.data || !series.data) return <Notice title="Computing the forecast…" />;
  const { overview } = answer.data;
  const full = overview.rows.filter((row) => row.full_on !== null).length;
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Stack direction="row" sx={{ px: 2, pt: 0.5, pb: 1, gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
        <Typography variant="h2">All targets</Typography>
        <Typography>
          {full === 0
            ? "None is full in this design"
            : `${full} of ${overview.rows.length} run full in this design`}
          ; {monthText(on)} costs{" "}
          <b data-figure="cost-month">{moneyText(overview.cost_month, overview.currency)}</b>, all years{" "}
          {moneyText(overview.cost_whole, overview.currency)}.
        </Typography>
        <Box sx={{ flex: 1 }} />
        <Tools as={as} list={list} onAs={setAs} />
      </Stack>
      {as === "table" ? (
        <OverviewTable overview={overview} />
      ) : (
        <Box
          ref={list}
          sx={{
            flex: 1,
            minHeight: 0,
            overflow: "auto",
            borderTop: 1,
            borderColor: "divider",
            ...ROWS_LOOK,
          }}
        >
          <OverviewAxis />
          <ul aria-label="All targets">
            {overview.rows.map((row) => (
              <TargetRow
                key={row.target}
                row={row}
                currency={overview.currency}
                series={series.data.targets.find((one) => one.target === row.target)}
                band={bands?.bands.find((one) => one.target === row.target)}
                spines={spines.get(row.target) ?? NOTHING}
                onShow={show}
              />
            ))}
          </ul>
        </Box>
      )}
    </Stack>
  );
}

/** How the rows are shown and saved. A menu and a choice are dear to draw, and say the same on all dates. */
const Tools = memo(function Tools(props: {
  as: keyof typeof AS;
  list: RefObject<HTMLDivElement | null>;
  onAs: (as: keyof typeof AS) => void;
}) {
  const save = (as: "svg" | "png") => () =>
    void savePicture(overviewDrawing(props.list.current), "all-targets", as);
  return (
    <>
      {props.as === "picture" && (
        <DownloadMenu
          label="Download this picture"
          acts={[
            ["all rows as SVG", save("svg")],
            ["all rows as PNG", save("png")],
          ]}
        />
      )}
      <Typography color="textSecondary">as</Typography>
      <Choice label="Shown as" value={props.as} options={AS} disabled={false} onChange={props.onAs} />
    </>
  );
});

function byTarget(rows: SpineRow[]): Map<string, SpineRow[]> {
  const found = new Map<string, SpineRow[]>();
  for (const row of rows) found.set(row.target, [...(found.get(row.target) ?? []), row]);
  return found;
}
