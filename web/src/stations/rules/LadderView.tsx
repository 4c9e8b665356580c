import { Box, Stack, TextField, Typography } from "@mui/material";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Ladder, LadderReading, Readings } from "../../api/types";
import { useDesign, useTargetName, useTrial } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { useShelves } from "../../design/useShelves";
import { FindingNotes } from "../../shared/FindingNotes";
import { countText } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { Shelf } from "../../shared/Shelf";
import { SERIF } from "../../theme/theme";
import { AddLadder } from "./AddLadder";
import { AgeAxis } from "./AgeAxis";
import { LadderRules } from "./LadderRules";
import { RuleActions } from "./RuleActions";
import { RuleNames } from "./RuleNames";

/** The ladders by name, and the chosen one under the hand. */
export function LadderView({ readings }: { readings: Readings | undefined }) {
  const { design, save, canEdit } = useDesign();
  const navigate = useNavigate();
  const { ladders } = design.document;
  const { key } = useParams();
  const chosen = ladders.find((ladder) => ladder.id === key) ?? ladders[0];
  const [adding, setAdding] = useState(false);
  const add = async (start: Ladder) => {
    setAdding(false);
    const id = freshId(start.id, ladders);
    if (await save("ladders", id, { ...start, id }, `added ${start.name}`)) navigate(`/rules/ladders/${id}`);
  };
  const names = (
    <RuleNames
      what="Ladders"
      base="/rules/ladders"
      chosen={chosen?.id ?? ""}
      entries={ladders}
      onAdd={canEdit ? () => setAdding(true) : null}
    />
  );
  const dialog = adding && (
    <AddLadder onChoose={(start) => void add(start)} onClose={() => setAdding(false)} />
  );
  if (!chosen)
    return (
      <Notice title="No ladder yet">
        {names}
        {dialog}
      </Notice>
    );
  return (
    <Stack sx={{ gap: 1.5, flex: 1 }}>
      {names}
      <LadderEditor key={chosen.id} saved={chosen} reading={readings?.ladders[chosen.id]} />
      {dialog}
    </Stack>
  );
}

/** One ladder. What is typed or dragged is tried at once and saved when the hand leaves it. */
function LadderEditor({ saved, reading }: { saved: Ladder; reading: LadderReading | undefined }) {
  const { tryOut, command, save, canEdit } = useDesign();
  const trial = useTrial();
  const [draft, setDraft] = useState(saved);
  useEffect(() => setDraft(saved), [saved]);
  const words = trial?.ladder.id === saved.id ? trial.reading : reading;
  const change = (ladder: Ladder) => {
    setDraft(ladder);
    // As saved it is no trial: what was tried before is over.
    const isSaved = JSON.stringify(ladder) === JSON.stringify(saved);
    tryOut(isSaved ? [] : [{ part: "ladders", key: ladder.id, value: ladder }]);
  };
  const keep = async (ladder: Ladder, what: string) => {
    if (JSON.stringify(ladder) === JSON.stringify(saved)) return change(saved);
    // Tried first: its figures are on the page before the database has answered.
    change(ladder);
    if (!(await save("ladders", saved.id, ladder, what))) setDraft(saved);
  };
  const runs = useRunNames(saved.id);
  const name = draft.name || draft.id;
  const rename = async (place: number, to: string) => {
    const rung = saved.rungs[place]?.name ?? "";
    const act = { do: "rename-rung", ladder: saved.id, rung, name: to } as const;
    return (await command(act, `${rung} renamed to ${to}`)) !== null;
  };
  const findings = useFindings().filter((one) => one.ladder === saved.id);
  return (
    <Stack component="section" aria-label={`Ladder ${name}`} sx={{ gap: 1.5 }}>
      <Stack direction="row" sx={{ gap: 2, alignItems: "baseline" }}>
        <TextField
          variant="standard"
          value={draft.name ?? ""}
          disabled={!canEdit}
          sx={{ width: 230, flexShrink: 0 }}
          slotProps={{
            htmlInput: { "aria-label": "Name of the ladder" },
            input: { sx: { fontFamily: SERIF, fontSize: 21 } },
          }}
          onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          onBlur={() => keep(draft, `renamed to ${draft.name}`)}
        />
        <Uses reading={words} />
        <Box sx={{ flex: 1 }} />
        {canEdit && <RuleActions rule={{ part: "ladders", entry: saved }} uses={words?.uses ?? []} />}
      </Stack>
      <Typography
        data-testid="sentence"
        sx={{ fontFamily: SERIF, fontSize: 17, lineHeight: 1.35, minHeight: "2.7em" }}
      >
        {words?.sentence ?? "Reading the ladder…"}
      </Typography>
      {words && <AgeAxis ladder={draft} reading={words} canEdit={canEdit} onTry={change} onKeep={keep} />}
      <LadderRules
        ladder={draft}
        reading={words}
        runs={runs}
        canEdit={canEdit}
        onTry={change}
        onKeep={keep}
        onRename={rename}
      />
      <FindingNotes findings={findings} />
      <LadderShelves ladder={saved} />
    </Stack>
  );
}

/** What stands on the shelves of the copies that use the ladder, as tried or as saved. */
function LadderShelves({ ladder }: { ladder: Ladder }) {
  const trial = useTrial();
  const saved = useShelves(ladder.id);
  const isTried = trial?.ladder.id === ladder.id;
  const shelves = (isTried ? trial.shelves : null) ?? saved.data?.shelves ?? [];
  const boards = new Set(shelves.map((shelf) => `${shelf.route}/${shelf.copy}`)).size;
  if (boards === 0) return null;
  return <Shelf shelves={shelves} height={Math.min(222, 22 + 44 * boards)} />;
}

function Uses({ reading }: { reading: LadderReading | undefined }) {
  const targetName = useTargetName();
  const uses = reading?.uses ?? [];
  if (uses.length === 0)
    return <Typography color="textSecondary">{reading ? "No route uses it yet." : ""}</Typography>;
  return (
    <Typography
      noWrap
      data-whole
      title={uses.map((use) => `${use.route} on ${targetName(use.target)}`).join("\n")}
      sx={{ color: "text.secondary", minWidth: 0 }}
    >
      Used by{" "}
      {uses.map((use, at) => (
        <span key={`${use.route}/${use.copy_id}`}>
          {at > 0 && ", "}
          {use.route} on {targetName(use.target)}
          {use.claimed.all === undefined ? "" : ` (${countText(use.claimed.all)} there)`}
        </span>
      ))}
    </Typography>
  );
}

/** The runs of the cadences whose points come to copies that use a ladder, by id. */
function useRunNames(ladder: string): Record<string, string> {
  const { design } = useDesign();
  const { routes, cadences } = design.document;
  const used = new Set(
    routes
      .filter((route) => route.copies.some((copy) => copy.ladder === ladder))
      .flatMap((route) => route.copies.map((copy) => copy.cadence)),
  );
  return Object.fromEntries(
    cadences
      .filter((one) => used.has(one.id))
      .flatMap((one) => one.runs.map((run) => [run.id, run.name || run.id])),
  );
}
