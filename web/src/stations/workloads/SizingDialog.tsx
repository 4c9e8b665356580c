import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { Fit, Sizing, Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { FaultyRows } from "../../shared/FaultyRows";
import { bytesText, countText } from "../../shared/format";
import { Refusal } from "../../shared/Refusal";
import { TableField } from "../../shared/TableField";
import { FitPicture } from "./FitPicture";

type Way = "listing" | "past";

/** Sizing help for one workload: from a listing of its files, or from past points. */
export function SizingDialog({ workload, onClose }: { workload: Workload; onClose: () => void }) {
  const { save } = useDesign();
  const [way, setWay] = useState<Way>("listing");
  const [found, setFound] = useState<Partial<Workload> | null>(null);
  const name = workload.name || workload.id;
  const take = async () => {
    if (found && (await save("workloads", workload.id, { ...workload, ...found }, `${name} sized`)))
      onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="sizing-title" fullWidth maxWidth="md">
      <DialogTitle id="sizing-title">Sizing help for {name}</DialogTitle>
      <DialogContent>
        <ToggleButtonGroup
          size="small"
          exclusive
          value={way}
          onChange={(_, next: Way | null) => {
            if (next) setWay(next);
            setFound(null);
          }}
          aria-label="What is known"
          sx={{ mb: 2 }}
        >
          <ToggleButton value="listing" sx={{ textTransform: "none" }}>
            A listing of its files
          </ToggleButton>
          <ToggleButton value="past" sx={{ textTransform: "none" }}>
            Past fulls and incrementals
          </ToggleButton>
        </ToggleButtonGroup>
        {way === "listing" ? (
          <FromListing onFound={setFound} />
        ) : (
          <FromPast workload={workload} onFound={setFound} />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={found === null} onClick={() => void take()}>
          Take these values
        </Button>
      </DialogActions>
    </Dialog>
  );
}

interface FoundProps {
  onFound: (found: Partial<Workload> | null) => void;
}

function FromListing({ onFound }: FoundProps) {
  const [text, setText] = useState("");
  const [include, setInclude] = useState("");
  const [exclude, setExclude] = useState("");
  const read = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/sizing/listing", {
          body: { text, include: patterns(include), exclude: patterns(exclude) },
        }),
      ),
    onSuccess: (sizing) => onFound(valuesOf(sizing)),
    onError: () => onFound(null),
  });
  return (
    <Stack sx={{ gap: 1.5 }}>
      <TableField label="A table with the columns path, size and changed" value={text} onChange={setText} />
      <Stack direction="row" sx={{ gap: 2 }}>
        <TextField
          fullWidth
          label="Count only paths like"
          placeholder="all, or /data/*"
          value={include}
          onChange={(event) => setInclude(event.target.value)}
        />
        <TextField
          fullWidth
          label="but not those like"
          placeholder="none, or *.tmp, */cache/*"
          value={exclude}
          onChange={(event) => setExclude(event.target.value)}
        />
        <Button
          variant="outlined"
          onClick={() => read.mutate()}
          loading={read.isPending}
          disabled={!text.trim()}
        >
          Read
        </Button>
      </Stack>
      <Refusal error={read.error} />
      {read.data && <ListingWords sizing={read.data} />}
    </Stack>
  );
}

function ListingWords({ sizing }: { sizing: Sizing }) {
  return (
    <Box data-testid="listing-read">
      <Typography>
        {countText(sizing.files)} files, {bytesText(sizing.size_bytes)}
        {sizing.left_out_files > 0 &&
          `; ${countText(sizing.left_out_files)} files, ${bytesText(sizing.left_out_bytes)} left out`}
        .{" "}
        {sizing.daily_change_percent !== null &&
          `Changed a day: ${sizing.daily_change_percent.toPrecision(3)} %, counting each changed file in whole.`}
      </Typography>
      {sizing.refused && <Typography color="error">{sizing.refused}</Typography>}
      <Box component="dl" sx={{ display: "flex", gap: 3, m: 0, mt: 1 }}>
        {sizing.spans.map((span) => (
          <Box key={span.days}>
            <Typography component="dt" variant="body2" color="textSecondary">
              changed in {span.days === 1 ? "the last day" : `${span.days} days`}
            </Typography>
            <Typography component="dd" sx={{ m: 0 }}>
              {bytesText(span.changed_bytes)}, {(100 * span.share).toPrecision(3)} %
            </Typography>
          </Box>
        ))}
      </Box>
      <FaultyRows faults={sizing.faults} leaveOut onLeaveOut={() => undefined} />
    </Box>
  );
}

function FromPast({ workload, onFound }: FoundProps & { workload: Workload }) {
  const [text, setText] = useState("");
  const [source, setSource] = useState(String(workload.size));
  const fit = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/sizing/past", {
          body: { text, source_size: /^\d+$/.test(source.trim()) ? Number(source) : source.trim() },
        }),
      ),
    onSuccess: (found) => onFound(fittedValues(found, source)),
    onError: () => onFound(null),
  });
  return (
    <Stack sx={{ gap: 1.5 }}>
      <TableField
        label="A table with the columns taken, kind and size (as stored)"
        value={text}
        onChange={setText}
      />
      <Stack direction="row" sx={{ gap: 2 }}>
        <TextField
          label="Size of the source now"
          value={source}
          onChange={(event) => setSource(event.target.value)}
        />
        <Button
          variant="outlined"
          onClick={() => fit.mutate()}
          loading={fit.isPending}
          disabled={!text.trim()}
        >
          Fit
        </Button>
      </Stack>
      <Refusal error={fit.error} />
      {fit.data?.refused && (
        <Typography role="alert" color="error">
          {fit.data.refused}
        </Typography>
      )}
      {fit.data && !fit.data.refused && <FitWords fit={fit.data} />}
    </Stack>
  );
}

function FitWords({ fit }: { fit: Fit }) {
  const share = fit.daily_change_percent?.toPrecision(3);
  return (
    <Box data-testid="fitted">
      <Typography>
        Reduction {fit.reduction?.toPrecision(3)}; {share} %{" "}
        {fit.pattern === "fresh" ? "new data" : "changed"} a day, {fit.pattern};{" "}
        {fit.annual_growth_percent === null
          ? "fulls span too little time to tell the growth"
          : `growth ${fit.annual_growth_percent?.toPrecision(3)} % a year`}
        . What was stored lies {fit.spread_percent?.toPrecision(2)} % from the fit (root mean square).
      </Typography>
      <FitPicture fit={fit} />
    </Box>
  );
}

function patterns(text: string): string[] {
  return text
    .split(/[,\n]+/)
    .map((one) => one.trim())
    .filter(Boolean);
}

function valuesOf(sizing: Sizing): Partial<Workload> | null {
  if (sizing.files === 0) return null;
  const change = sizing.daily_change_percent;
  return {
    size: Math.round(sizing.size_bytes),
    ...(change === null ? {} : { daily_change_percent: Math.min(100, Number(change.toPrecision(4))) }),
  };
}

function fittedValues(fit: Fit, source: string): Partial<Workload> | null {
  if (fit.refused || fit.reduction === null || fit.daily_change_percent === null || fit.pattern === null)
    return null;
  return {
    size: /^\d+$/.test(source.trim()) ? Number(source) : source.trim(),
    reduction: Number(fit.reduction.toPrecision(4)),
    daily_change_percent: Number(fit.daily_change_percent.toPrecision(4)),
    change_pattern: fit.pattern,
    hot_percent: 100,
    change_reduction: null,
    ...(fit.annual_growth_percent === null
      ? {}
      : { annual_growth_percent: Number(fit.annual_growth_percent.toPrecision(4)) }),
  };
}
