import AddIcon from "@mui/icons-material/Add";
import { Button } from "@mui/material";
import type { Link } from "../../api/types";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SeveralWords } from "../../shared/SeveralWords";
import { SpeedWord } from "../../shared/SpeedWord";
import { TextWord } from "../../shared/TextWord";
import { FIRST, WEEKDAY_NAMES } from "../../shared/words";

type Limit = NonNullable<Link["limits"]>[number];

interface Props {
  limits: readonly Limit[];
  speed: Link["speed"];
  canEdit: boolean;
  keep: (limits: Limit[], what: string) => Promise<boolean>;
}

/** The limits of a line by the hour, each a sentence whose words are typed. */
export function LimitLines({ limits, speed, canEdit, keep }: Props) {
  const put = (at: number, limit: Limit | null, what: string) =>
    keep(
      limits.flatMap((one, place) => (place !== at ? [one] : limit ? [limit] : [])),
      what,
    );
  const add = () => {
    const limit: Limit = { ...FIRST.limit, speed: limits.at(-1)?.speed ?? speed ?? "0 MB/s" };
    void keep([...limits, limit], "a limit by the hour");
  };
  return (
    <>
      {limits.map((limit, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: limits have no id, their place is what they are known by
        <Line key={at} label={`Limit ${at + 1}`}>
          On
          <SeveralWords
            label={`Days of limit ${at + 1}`}
            values={limit.days ?? Object.keys(WEEKDAY_NAMES)}
            options={WEEKDAY_NAMES}
            disabled={!canEdit}
            onChange={(days) => {
              const all = days.length === Object.keys(WEEKDAY_NAMES).length;
              void put(at, { ...limit, days: all ? null : (days as Limit["days"]) }, "the days of a limit");
            }}
          />
          <HourWords
            limit={limit}
            at={at}
            canEdit={canEdit}
            onKeep={(next) => put(at, next, "a limit's hours")}
          />
          at most
          <SpeedWord
            label={`Speed of limit ${at + 1}`}
            value={limit.speed}
            disabled={!canEdit}
            onKeep={(found) => put(at, { ...limit, speed: found ?? 0 }, `a limit of ${found ?? "a pause"}`)}
          />
          {canEdit && (
            <RemoveButton
              label={`Remove limit ${at + 1}`}
              onRemove={() => void put(at, null, "removed a limit")}
            />
          )}
        </Line>
      ))}
      {canEdit && (
        <Button startIcon={<AddIcon />} sx={{ alignSelf: "flex-start" }} onClick={add}>
          Add a limit by the hour
        </Button>
      )}
    </>
  );
}

function HourWords({
  limit,
  at,
  canEdit,
  onKeep,
}: {
  limit: Limit;
  at: number;
  canEdit: boolean;
  onKeep: (limit: Limit) => Promise<boolean>;
}) {
  // Both ends stand or neither does: emptying one is the whole day, and typing one from nothing takes midnight for the other.
  const put = (field: "from" | "to", text: string) => {
    const { from, to, ...rest } = limit;
    if (text.trim() === "") return onKeep(rest);
    const other = field === "from" ? (to ?? "00:00") : (from ?? "00:00");
    return onKeep(
      field === "from"
        ? { ...rest, from: text.trim(), to: other }
        : { ...rest, from: other, to: text.trim() },
    );
  };
  return (
    <>
      from
      <TextWord
        label={`Limit ${at + 1} begins`}
        value={limit.from ?? ""}
        placeholder="midnight"
        disabled={!canEdit}
        width={84}
        onKeep={(text) => put("from", text)}
      />
      to
      <TextWord
        label={`Limit ${at + 1} ends`}
        value={limit.to ?? ""}
        placeholder="midnight"
        disabled={!canEdit}
        width={84}
        onKeep={(text) => put("to", text)}
      />
    </>
  );
}
