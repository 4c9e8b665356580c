import AddIcon from "@mui/icons-material/Add";
import { Button, Typography } from "@mui/material";
import type { Workload } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DateWord } from "../../shared/DateWord";
import { freshId } from "../../shared/ids";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";

type Member = NonNullable<Workload["members"]>[number];

export interface LinesProps {
  workload: Workload;
  canEdit: boolean;
  keep: (change: Partial<Workload>, what: string) => Promise<boolean>;
}

export function MemberLines({ workload, canEdit, keep }: LinesProps) {
  const members = workload.members ?? [];
  const put = (at: number, change: Partial<Member> | null, what: string) =>
    keep(
      {
        members: members.flatMap((one, place) =>
          place !== at ? [one] : change ? [{ ...one, ...change }] : [],
        ),
      },
      what,
    );
  return (
    <>
      {members.length > 0 && <Typography>It is an index of these parts:</Typography>}
      {members.map((member, at) => (
        <Line key={member.id} label={`Part ${member.id}`}>
          <TextWord
            label={`Id of part ${at + 1}`}
            value={member.id}
            disabled={!canEdit}
            width={130}
            onKeep={(id) => put(at, { id }, `the part ${id}`)}
          />
          closed from
          <DateWord
            label={`Part ${member.id} is closed from`}
            value={member.closed_from}
            disabled={!canEdit}
            onKeep={(day) =>
              put(at, { closed_from: day }, `the part ${member.id} closed from ${day ?? "no date"}`)
            }
          />
          <Choice
            label={`What holds part ${member.id} once it is closed`}
            value={typeof member.keep_closed === "string" ? "until" : member.keep_closed ? "good" : "rule"}
            options={keptWords(member)}
            disabled={!canEdit}
            onChange={(word) =>
              void put(at, { keep_closed: word === "good" }, `the part ${member.id} kept ${word}`)
            }
          />
          {canEdit && (
            <RemoveButton
              label={`Remove part ${member.id}`}
              onRemove={() => void put(at, null, `without the part ${member.id}`)}
            />
          )}
        </Line>
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() =>
            void keep(
              { members: [...members, { id: freshId("part", members), offline: [] }] },
              "a part of an index",
            )
          }
        >
          Add a part of an index
        </Button>
      )}
    </>
  );
}

function keptWords(member: Member): Record<string, string> {
  const words = { rule: "and kept by the rule", good: "and kept for good" };
  return typeof member.keep_closed === "string"
    ? { ...words, until: `and kept until ${member.keep_closed}` }
    : words;
}
