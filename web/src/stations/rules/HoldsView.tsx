import AddIcon from "@mui/icons-material/Add";
import { Button, Stack, Typography } from "@mui/material";
import { type Hold, WHOLE } from "../../api/types";
import { stockOf } from "../../design/changes";
import { useDesign } from "../../design/context";
import { ChosenWorkloads } from "../../shared/ChosenWorkloads";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";

/** What must not go whatever the ladders say: points taken between two dates, from one day until another. */
export function HoldsView() {
  const { design, canEdit, save } = useDesign();
  const { document } = design;
  const holds = document.holds ?? [];
  const keepAll = (next: Hold[], what: string) =>
    save("stock", WHOLE, { ...stockOf(document), holds: next }, what);
  const put = (at: number, change: Partial<Hold> | null, what: string) =>
    keepAll(
      holds.flatMap((one, place) => (place !== at ? [one] : change ? [{ ...one, ...change }] : [])),
      what,
    );
  const day = document.starts;
  const first = document.workloads[0];
  const workloads = { ids: first ? [first.id] : [], tags: [] };
  const fresh: Hold = { workloads, taken_from: day, taken_to: day, placed: day, released: null };
  return (
    <Stack sx={{ gap: 2 }}>
      <Typography color="textSecondary">
        A hold keeps points that were taken in a stretch of time, whatever the ladders let go: for a dispute,
        an audit, an inquiry.
      </Typography>
      {holds.map((hold, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: holds have no id, their place is what they are known by
        <OneHold key={at} hold={hold} number={at + 1} onPut={(change, what) => put(at, change, what)} />
      ))}
      {canEdit && first && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() => void keepAll([...holds, fresh], "added a hold")}
        >
          Add a hold
        </Button>
      )}
    </Stack>
  );
}

interface Props {
  hold: Hold;
  number: number;
  onPut: (change: Partial<Hold> | null, what: string) => Promise<boolean>;
}

function OneHold({ hold, number, onPut }: Props) {
  const { canEdit } = useDesign();
  const name = `hold ${number}`;
  const date = (field: "taken_from" | "taken_to" | "placed" | "released", words: string, none = "") => (
    <TextWord
      label={`${words} of ${name}`}
      value={hold[field] ?? ""}
      placeholder={none}
      disabled={!canEdit}
      width={112}
      onKeep={(text) => {
        const day = text.trim();
        return onPut(
          { [field]: day === "" && field === "released" ? null : day },
          `${name}: ${words.toLowerCase()} ${day || none}`,
        );
      }}
    />
  );
  return (
    <Stack component="section" aria-label={`Hold ${number}`} sx={{ gap: 0.75 }}>
      <Line label={`What hold ${number} keeps`}>
        Points taken from
        {date("taken_from", "First day")}
        to
        {date("taken_to", "Last day")}
        stay from
        {date("placed", "Placed")}
        until
        {date("released", "Released", "further notice")}
        {canEdit && (
          <RemoveButton
            label={`Remove hold ${number}`}
            onRemove={() => void onPut(null, `removed ${name}`)}
          />
        )}
      </Line>
      <ChosenWorkloads
        label={name}
        chosen={hold.workloads}
        onKeep={(workloads, what) => onPut({ workloads }, `${name}: ${what}`)}
      />
    </Stack>
  );
}
