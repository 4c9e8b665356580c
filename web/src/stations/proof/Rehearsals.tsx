import AddIcon from "@mui/icons-material/Add";
import { Button, Stack, Typography } from "@mui/material";
import { type Rehearsal, WHOLE } from "../../api/types";
import { stockOf } from "../../design/changes";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";

/** When a plan was rehearsed, and how that went: duties that ask for rehearsals go by it. */
export function Rehearsals({ plan }: { plan: string }) {
  const { design, canEdit, on, save } = useDesign();
  const { document } = design;
  const all = document.rehearsals ?? [];
  const keepAll = (next: Rehearsal[], what: string) =>
    save("stock", WHOLE, { ...stockOf(document), rehearsals: next }, what);
  const mine = all.map((one, place) => ({ one, place })).filter(({ one }) => one.plan === plan);
  const put = (at: number, change: Partial<Rehearsal> | null, what: string) =>
    keepAll(
      all.flatMap((one, place) => (place !== at ? [one] : change ? [{ ...one, ...change }] : [])),
      what,
    );
  return (
    <Stack component="section" aria-label="Rehearsals" sx={{ gap: 0.5 }}>
      <Typography variant="h3">Rehearsals</Typography>
      {mine.length === 0 && <Typography color="textSecondary">It has not been rehearsed yet.</Typography>}
      {mine.map(({ one, place }, at) => (
        <OneRehearsal
          key={place}
          rehearsal={one}
          number={at + 1}
          onPut={(change, what) => put(place, change, what)}
        />
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() =>
            void keepAll(
              [...all, { plan, at: `${on}T10:00`, passed: true, acted: false, note: "" }],
              "a rehearsal",
            )
          }
        >
          Add a rehearsal
        </Button>
      )}
    </Stack>
  );
}

interface Props {
  rehearsal: Rehearsal;
  number: number;
  onPut: (change: Partial<Rehearsal> | null, what: string) => Promise<boolean>;
}

function OneRehearsal({ rehearsal, number, onPut }: Props) {
  const { canEdit } = useDesign();
  const name = `rehearsal ${number}`;
  return (
    <Line label={`Rehearsal ${number}`}>
      At
      <TextWord
        label={`Time of ${name}`}
        value={rehearsal.at.replace("T", " ")}
        disabled={!canEdit}
        width={142}
        onKeep={(text) => onPut({ at: text.trim().replace(" ", "T") }, `${name} at ${text}`)}
      />
      it
      <Choice
        label={`Outcome of ${name}`}
        value={rehearsal.passed ? "passed" : "failed"}
        options={{ passed: "passed", failed: "failed" }}
        disabled={!canEdit}
        onChange={(word) => void onPut({ passed: word === "passed" }, `${name} ${word}`)}
      />
      and was
      <Choice
        label={`Who acted in ${name}`}
        value={rehearsal.acted ? "acted" : "real"}
        options={{ real: "carried out", acted: "acted with stand-ins" }}
        disabled={!canEdit}
        onChange={(word) => void onPut({ acted: word === "acted" }, `${name} ${word}`)}
      />
      <TextWord
        label={`Note on ${name}`}
        value={rehearsal.note ?? ""}
        placeholder="a note"
        disabled={!canEdit}
        width={260}
        onKeep={(note) => onPut({ note }, `${name}: a note`)}
      />
      {canEdit && (
        <RemoveButton label={`Remove ${name}`} onRemove={() => void onPut(null, `removed ${name}`)} />
      )}
    </Line>
  );
}
