import AddIcon from "@mui/icons-material/Add";
import { Button, Stack, TextField, Typography } from "@mui/material";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Cadence, CadenceReading, Readings, Run } from "../../api/types";
import { useDesign, useTargetName } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { FindingNotes } from "../../shared/FindingNotes";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { FIRST } from "../../shared/words";
import { SERIF } from "../../theme/theme";
import { AddCadence } from "./AddCadence";
import { CalendarTools } from "./CalendarTools";
import { MonthCalendar } from "./MonthCalendar";
import { RuleActions } from "./RuleActions";
import { RuleNames } from "./RuleNames";
import { RunWords } from "./RunWords";

const NIGHTLY: Run = {
  id: "night",
  name: "Nightly",
  kind: "incremental",
  rrule: FIRST.rrule,
  at: ["22:00"],
  except: [],
};

/** The cadences by name, and the chosen one beside the month it makes. */
export function CadenceView({ readings }: { readings: Readings | undefined }) {
  const { design, save, canEdit } = useDesign();
  const navigate = useNavigate();
  const { cadences } = design.document;
  const { key } = useParams();
  const chosen = cadences.find((cadence) => cadence.id === key) ?? cadences[0];
  const [adding, setAdding] = useState(false);
  const add = async (start: Cadence) => {
    setAdding(false);
    const id = freshId(start.id, cadences);
    if (await save("cadences", id, { ...start, id }, `added ${start.name}`))
      navigate(`/rules/cadences/${id}`);
  };
  const names = (
    <>
      <RuleNames
        what="Cadences"
        base="/rules/cadences"
        chosen={chosen?.id ?? ""}
        entries={cadences}
        onAdd={canEdit ? () => setAdding(true) : null}
      />
      {adding && <AddCadence onChoose={(start) => void add(start)} onClose={() => setAdding(false)} />}
    </>
  );
  if (!chosen)
    return (
      <Notice title="No cadence yet">
        {names}
        <CalendarTools cadence={undefined} />
      </Notice>
    );
  return (
    <Stack sx={{ gap: 1.5 }}>
      {names}
      <CadenceEditor key={chosen.id} cadence={chosen} reading={readings?.cadences[chosen.id]} />
      <CalendarTools cadence={chosen.id} />
    </Stack>
  );
}

function CadenceEditor({ cadence, reading }: { cadence: Cadence; reading: CadenceReading | undefined }) {
  const { save, canEdit } = useDesign();
  const targetName = useTargetName();
  const findings = useFindings().filter((one) => one.cadence === cadence.id && one.route === null);
  const [name, setName] = useState(cadence.name ?? "");
  useEffect(() => setName(cadence.name ?? ""), [cadence]);
  const keep = (value: Cadence, what: string) => void save("cadences", cadence.id, value, what);
  const put = (at: number, run: Run | null, what: string) => {
    const runs = cadence.runs.flatMap((one, place) => (place !== at ? [one] : run ? [run] : []));
    keep({ ...cadence, runs }, what);
  };
  const add = () => {
    const run = { ...NIGHTLY, id: freshId("run", cadence.runs), name: "New run" };
    keep({ ...cadence, runs: [...cadence.runs, run] }, "added a run");
  };
  return (
    <Stack component="section" aria-label={`Cadence ${name}`} sx={{ gap: 0.75 }}>
      <Stack direction="row" sx={{ gap: 2, alignItems: "baseline" }}>
        <TextField
          variant="standard"
          value={name}
          disabled={!canEdit}
          sx={{ width: 320 }}
          slotProps={{
            htmlInput: { "aria-label": "Name of the cadence" },
            input: { sx: { fontFamily: SERIF, fontSize: 21 } },
          }}
          onChange={(event) => setName(event.target.value)}
          onBlur={() => name !== (cadence.name ?? "") && keep({ ...cadence, name }, `renamed to ${name}`)}
        />
        <Typography color="textSecondary" noWrap data-whole sx={{ flex: 1, minWidth: 0 }}>
          {reading && reading.uses.length > 0
            ? `Used by ${reading.uses.map((use) => `${use.route} on ${targetName(use.target)}`).join(", ")}`
            : reading && "No route uses it yet."}
        </Typography>
        {canEdit && <RuleActions rule={{ part: "cadences", entry: cadence }} uses={reading?.uses ?? []} />}
      </Stack>
      {cadence.runs.map((run, at) => (
        <RunWords
          key={run.id}
          run={run}
          reading={reading?.runs.find((one) => one.id === run.id)}
          onKeep={(changed, what) => put(at, changed, what)}
          removable={cadence.runs.length > 1}
        />
      ))}
      {canEdit && (
        <Button startIcon={<AddIcon />} onClick={add} sx={{ alignSelf: "flex-start" }}>
          Add a run
        </Button>
      )}
      <FindingNotes findings={findings} />
      <MonthCalendar cadence={cadence} />
    </Stack>
  );
}
