import { Box, Button, Stack, Tooltip, Typography } from "@mui/material";
import type { ConsequenceOut, MonthOut } from "../api/types";
import { useDesign, useShownFigures } from "../design/context";
import { useMonthCost } from "../design/useMonthCost";
import { useNotFull } from "../design/useNotFull";
import { bytesText, countText, moneyText, percentText, signed, writtenDate } from "../shared/format";
import { DutyVerdicts } from "./DutyVerdicts";

const COLUMNS = { display: "grid", gridTemplateColumns: "0.75fr 1fr 1fr 1fr", gap: 1 };

/** What the rules come to on every target at the as-of date, with the change since the reference. */
export function ConsequencePanel() {
  const { design, on, setReference } = useDesign();
  const { consequences, tried } = useShownFigures();
  const costs = useMonthCost();
  const isReference = design.reference_revision === design.revision && !tried;
  return (
    <Box
      component="aside"
      aria-label="Consequences"
      tabIndex={0} // a design with many targets scrolls here, from the keyboard too
      sx={{
        borderLeft: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        overflow: "auto",
        minHeight: 0,
      }}
    >
      <Stack
        direction="row"
        sx={{ px: 2, pt: 1, pb: 0.25, alignItems: "baseline", justifyContent: "space-between" }}
      >
        <Typography variant="h2">Consequences</Typography>
        <Tooltip
          title={
            isReference ? "The design is as it was set as the reference" : "Measure changes from here on (b)"
          }
        >
          <span>
            <Button onClick={setReference} disabled={isReference}>
              {isReference ? "At the reference" : "Set reference"}
            </Button>
          </span>
        </Tooltip>
      </Stack>
      <Typography variant="body2" color="textSecondary" sx={{ px: 2, pb: 0.5 }}>
        {tried ? "Tried, not yet saved" : "As saved"}, at the end of {writtenDate(on)}
      </Typography>
      <DutyVerdicts />
      <Box sx={{ ...COLUMNS, px: 2, pb: 0.5, color: "text.secondary" }} aria-hidden="true">
        <span>points</span>
        <span>stored</span>
        <span>peak</span>
        <span title="what the month of the as-of date costs">a month</span>
      </Box>
      {!consequences && (
        <Typography role="status" color="textSecondary" sx={{ px: 2, pt: 1 }}>
          Forecasting every target…
        </Typography>
      )}
      {consequences?.targets.length === 0 && (
        <Typography color="textSecondary" sx={{ px: 2, pt: 1 }}>
          No target yet: what it holds, and when it is full, will stand here.
        </Typography>
      )}
      {byChange(consequences?.targets ?? []).map((one) => (
        <TargetFigures
          key={one.now.target}
          one={one}
          cost={costs?.targets.find((found) => found.target === one.now.target)}
          currency={costs?.currency ?? ""}
        />
      ))}
    </Box>
  );
}

/** What changed most comes first; what did not stays in the order of the design. */
function byChange(targets: readonly ConsequenceOut[]): ConsequenceOut[] {
  return [...targets].sort((one, other) => (other.change?.weight ?? 0) - (one.change?.weight ?? 0));
}

interface FiguresProps {
  one: ConsequenceOut;
  cost: MonthOut["targets"][number] | undefined;
  currency: string;
}

function TargetFigures({ one, cost, currency }: FiguresProps) {
  const { now, change } = one;
  const share = now.room_bytes ? now.stored_bytes / now.room_bytes : null;
  return (
    <Box
      component="section"
      aria-label={now.name}
      data-target={now.target}
      sx={{ px: 2, pt: 0.4, pb: 0.1, borderTop: 1, borderColor: "divider" }}
    >
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography component="h3" sx={{ fontWeight: 600 }}>
          {now.name}
        </Typography>
        <FullOn one={one} />
      </Stack>
      <Gauge share={share} />
      <Box sx={COLUMNS}>
        <Figure name="points" value={countText(now.points)} change={change && countChange(change.points)} />
        <Figure
          name="stored"
          value={bytesText(now.stored_bytes)}
          change={change && bytesChange(change.stored_bytes)}
        />
        <Figure
          name="peak"
          value={bytesText(now.peak_bytes)}
          change={change && bytesChange(change.peak_bytes)}
        />
        <Figure
          name="cost"
          value={cost?.cost ? moneyText(cost.cost, currency) : ""}
          change={moneyChange(cost?.change ?? 0, currency)}
        />
      </Box>
    </Box>
  );
}

function FullOn({ one: { now, change } }: { one: ConsequenceOut }) {
  const notFull = useNotFull();
  const before = change?.full_on_changed
    ? ` (was ${change.full_on_before ? writtenDate(change.full_on_before) : "not full"})`
    : "";
  if (now.capacity_bytes === null) return <Typography variant="body2">grows with use</Typography>;
  if (now.full_on === null)
    return (
      <Typography variant="body2" color="success" data-figure="full">
        {notFull}
        {before}
      </Typography>
    );
  return (
    <Typography variant="body2" color="error" data-figure="full">
      full on {writtenDate(now.full_on)}
      {before}
    </Typography>
  );
}

/** How full the target is at the date: a hairline rule that fills, brick beyond its room. */
function Gauge({ share }: { share: number | null }) {
  if (share === null) return <Box sx={{ height: 3, my: 0.2 }} />;
  return (
    <Box
      title={`${percentText(share)} of its room is in use`}
      sx={{ height: 3, my: 0.2, bgcolor: "divider" }}
    >
      <Box
        sx={{
          height: 3,
          width: `${Math.min(1, share) * 100}%`,
          bgcolor: share > 1 ? "error.main" : "primary.main",
        }}
      />
    </Box>
  );
}

function Figure({ name, value, change }: { name: string; value: string; change: string | null | undefined }) {
  return (
    <div>
      <Typography data-figure={name} sx={{ fontSize: 15, lineHeight: 1.3 }}>
        {value}
      </Typography>
      <Typography
        variant="body2"
        data-change={name}
        sx={{ lineHeight: 1.15, minHeight: "1.05em", color: "primary.main" }}
      >
        {change ?? ""}
      </Typography>
    </div>
  );
}

function countChange(change: number): string {
  return change === 0 ? "" : signed(countText(change));
}

function bytesChange(change: number): string {
  return change === 0 ? "" : signed(bytesText(change));
}

/** A change of less than half a cent is only the order of adding. */
function moneyChange(change: number, currency: string): string {
  if (Math.abs(change) < 0.005) return "";
  return `${change < 0 ? "−" : "+"}${moneyText(Math.abs(change), currency)}`;
}
