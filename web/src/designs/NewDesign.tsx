import { Button, MenuItem, Stack, TextField } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { DesignDocument, DesignLine } from "../api/types";
import { DateField } from "../shared/DateField";
import { FileButton } from "../shared/FileButton";
import { Refusal } from "../shared/Refusal";
import { useStartingPoints } from "../shared/useStartingPoints";
import { DocumentPreview } from "./DocumentPreview";
import { TimeZones, ZONES_ID } from "./TimeZones";

/** Begins a design of one's own or with a worked one, or opens one that was kept as a file. */
export function NewDesign({ onMade }: { onMade: (id: number) => void }) {
  const [name, setName] = useState("");
  const [timezone, setTimezone] = useState(Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC");
  const points = useStartingPoints();
  const [begun, setBegun] = useState("");
  const start = points?.designs.find((one) => one.id === begun);
  const empty = start?.design ?? points?.empty;
  const [site, setSite] = useState<string>();
  const firstSite = site ?? points?.empty.sites?.[0]?.name ?? "";
  const [typedStarts, setStarts] = useState<string>();
  const [typedYears, setYears] = useState<string>();
  const starts = typedStarts ?? points?.empty.starts ?? "";
  const years = typedYears ?? String(empty?.years ?? "");
  const cache = useQueryClient();
  const make = useMutation({
    mutationFn: (document: DesignDocument) => unwrap(client.POST("/api/designs", { body: document })),
    onSuccess: (line) => {
      // Known before it is opened: a list that came later would open it a second time, under a page already in use.
      cache.setQueryData<DesignLine[]>(keys.designs, (before) => [...(before ?? []), line]);
      onMade(line.id);
    },
  });
  const read = useMutation({
    mutationFn: async (file: File) =>
      unwrap(client.POST("/api/documents", { body: { text: await file.text() } })),
  });
  const begin = () => {
    if (!empty) return;
    const sites = start ? empty.sites : empty.sites?.map((one) => ({ ...one, name: firstSite.trim() }));
    make.mutate({ ...empty, sites, name: name.trim(), timezone, starts, years: Number(years) });
  };
  return (
    <Stack
      component="form"
      spacing={2}
      sx={{ width: 400, mx: "auto", mt: 3, textAlign: "left" }}
      onSubmit={(event) => {
        event.preventDefault();
        begin();
      }}
    >
      <TextField
        label="Name of the design"
        value={name}
        onChange={(event) => setName(event.target.value)}
        required
      />
      <TextField
        select
        label="Begin with"
        value={begun}
        onChange={(event) => setBegun(event.target.value)}
        helperText={start?.fits ?? "Nothing but a site: the design says at each step what comes next."}
        slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
      >
        <MenuItem value="">a new design of your own</MenuItem>
        {points?.designs.map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.design.name}
          </MenuItem>
        ))}
      </TextField>
      {!start && (
        <TextField
          label="First site"
          value={firstSite}
          onChange={(event) => setSite(event.target.value)}
          required
        />
      )}
      <TextField
        label="Time zone"
        value={timezone}
        onChange={(event) => setTimezone(event.target.value)}
        slotProps={{ htmlInput: { list: ZONES_ID } }}
        required
      />
      <TimeZones />
      <Stack direction="row" spacing={2}>
        <DateField label="Starts on" value={starts} onChange={setStarts} required fullWidth />
        <TextField
          label="Years ahead"
          type="number"
          value={years}
          onChange={(event) => setYears(event.target.value)}
          slotProps={{ htmlInput: { min: 1, max: 150 } }}
          required
          fullWidth
        />
      </Stack>
      <Refusal error={make.error ?? read.error} />
      {read.data && (
        <>
          <DocumentPreview read={read.data} instead={null} />
          <Button
            variant="contained"
            loading={make.isPending}
            onClick={() => read.data && make.mutate(read.data.document)}
          >
            Open it as a design
          </Button>
        </>
      )}
      <Stack direction="row" spacing={2} sx={{ justifyContent: "flex-end" }}>
        <FileButton
          accept=".json,.yaml,.yml,application/json"
          loading={read.isPending}
          onFile={(file) => read.mutate(file)}
        >
          Open a design from a file
        </FileButton>
        <Button type="submit" variant="contained" loading={make.isPending} disabled={name.trim() === ""}>
          Begin
        </Button>
      </Stack>
    </Stack>
  );
}
