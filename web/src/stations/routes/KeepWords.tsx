import { Typography } from "@mui/material";
import type { Copy, Rotation } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { NumberField } from "../../shared/NumberField";
import { Word } from "../../shared/Word";
import { FIRST, WEEKDAY_NAMES } from "../../shared/words";
import type { CopyLineProps } from "./CopyEditor";

const SCHEMES: Record<Rotation["scheme"], string> = {
  fifo: "in turn",
  hanoi: "as a Tower of Hanoi",
  gfs: "by weekday, week and month",
};
const SWEEPS: Record<NonNullable<Copy["sweep"]>, string> = {
  daily: "at each run and every midnight",
  "with-runs": "only when a run comes",
};

/** How long a copy keeps its points: by a ladder, or by the rotation of its tapes; and when old ones go. */
export function KeepWords({ copy, canEdit, keep }: CopyLineProps) {
  const { design } = useDesign();
  const { ladders, targets } = design.document;
  const onTape = targets.find((target) => target.id === copy.target)?.media === "tape";
  const options: Record<string, string> = {
    ...Object.fromEntries(ladders.map((ladder) => [`ladder/${ladder.id}`, ladder.name || ladder.id])),
    ...(onTape || copy.rotation ? { rotation: "rotating its tapes" } : {}),
  };
  const choose = (value: string) => {
    if (value === "rotation")
      void keep({ ladder: null, rotation: { scheme: "fifo", sets: 4 } }, "keeps by rotation");
    else {
      const ladder = value.slice("ladder/".length);
      void keep({ ladder, rotation: null }, `keeps by ${options[value]}`);
    }
  };
  return (
    <Line label="How long it keeps">
      It keeps by
      <Choice
        label="Ladder of the copy"
        value={copy.rotation ? "rotation" : `ladder/${copy.ladder}`}
        options={options}
        disabled={!canEdit}
        onChange={choose}
      />
      {copy.rotation && (
        <RotationWords
          rotation={copy.rotation}
          canEdit={canEdit}
          onKeep={(rotation) => void keep({ rotation }, "its rotation")}
        />
      )}
      and what is let go
      <Typography>
        <Word term="sweep">goes</Word>
      </Typography>
      <Choice
        label="When old points are deleted"
        value={copy.sweep ?? "daily"}
        options={SWEEPS}
        disabled={!canEdit}
        onChange={(sweep) => void keep({ sweep }, `old points go ${SWEEPS[sweep]}`)}
      />
    </Line>
  );
}

function RotationWords({
  rotation,
  canEdit,
  onKeep,
}: {
  rotation: Rotation;
  canEdit: boolean;
  onKeep: (rotation: Rotation) => void;
}) {
  const choose = (scheme: Rotation["scheme"]) =>
    onKeep(
      scheme === "gfs"
        ? { scheme, weekly_on: FIRST.weekly_set, years: 1 }
        : { scheme, sets: rotation.sets ?? 4 },
    );
  const field = { disabled: !canEdit, onTry: () => undefined };
  return (
    <>
      <Choice
        label="Scheme of the rotation"
        value={rotation.scheme}
        options={SCHEMES}
        disabled={!canEdit}
        onChange={choose}
      />
      {rotation.scheme === "gfs" ? (
        <>
          weekly on
          <Choice
            label="Weekly set on"
            value={rotation.weekly_on ?? FIRST.weekly_set}
            options={WEEKDAY_NAMES}
            disabled={!canEdit}
            onChange={(day) => onKeep({ ...rotation, weekly_on: day as NonNullable<Rotation["weekly_on"]> })}
          />
          with
          <NumberField
            {...field}
            label="Yearly sets"
            value={rotation.years ?? 0}
            min={0}
            onKeep={(years) => onKeep({ ...rotation, years })}
          />
          yearly sets
        </>
      ) : (
        <>
          with
          <NumberField
            {...field}
            label="Sets"
            value={rotation.sets ?? 1}
            min={1}
            onKeep={(sets) => onKeep({ ...rotation, sets })}
          />
          sets
        </>
      )}
    </>
  );
}
