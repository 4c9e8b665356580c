import {
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
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { Refusal } from "../../shared/Refusal";
import { TableField } from "../../shared/TableField";
import { FitWords, fittedValues, ListingWords, patterns, valuesOf } from "./SizingResults";

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
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={found === null} onClick={() => void take()}>
          Use these values
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
