import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Ask, Counted } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { TimeWord } from "../../shared/TimeWord";
import { CopiesWords, HistoryWords, Long, RehearsedWords, StandsWords } from "./AskParts";
import { CountedWords } from "./CountedWords";

const ASKS = VOCABULARY.asks;
type Kind = keyof typeof ASKS;

interface Props {
  label: string;
  ask: Ask;
  onKeep: (ask: Ask, what: string) => Promise<boolean>;
}

/** One thing that a duty asks, as a sentence whose words are chosen and typed. */
export function AskWords({ label, ask, onKeep }: Props) {
  const { design, canEdit } = useDesign();
  const cases = design.document.loss_cases ?? [];
  const kind = kindOf(ask);
  const choose = (next: Kind) => {
    const start = { ...ASKS[next].ask } as Ask;
    if (next.startsWith("stands")) start.stands = cases[0]?.id ?? null;
    void onKeep(start, ASKS[next].name);
  };
  const put = (change: Partial<Ask>, what: string) => onKeep({ ...ask, ...change }, what);
  const props = { label, ask, put, disabled: !canEdit };
  return (
    <>
      <Choice
        label={`What ${label} asks`}
        value={kind}
        options={namesOf(kind, cases.length > 0)}
        disabled={!canEdit}
        onChange={choose}
      />
      {kind === "rpo" && <Long {...props} field="rpo" what="Age" />}
      {kind === "history" && <HistoryWords {...props} />}
      {kind === "copies" && <CopiesWords {...props} />}
      {kind === "gone_after" && <Long {...props} field="gone_after" what="Time" />}
      {kind.startsWith("stands") && <StandsWords {...props} isLoss={kind === "stands-rpo"} />}
      {kind === "rehearsed" && <RehearsedWords {...props} />}
      {["rpo", "history", "copies", "stands-rpo", "stands-rto", "rehearsed"].includes(kind) &&
        ask.first_by && (
          <>
            , first after
            <TimeWord
              label={`Time to begin, ${label}`}
              value={ask.first_by}
              disabled={!canEdit}
              onKeep={(first_by) => put({ first_by }, "a time to begin")}
            />
          </>
        )}
      {["rpo", "history", "copies", "gone_after"].includes(kind) && (
        <CountedWords
          label={label}
          counted={ask.counted ?? null}
          onKeep={(counted: Counted | null, what) => put({ counted }, what)}
        />
      )}
    </>
  );
}

function kindOf(ask: Ask): Kind {
  if (ask.stands) return ask.rto ? "stands-rto" : "stands-rpo";
  return (
    (["rpo", "history", "copies", "gone_after", "rehearsed"] as const).find((one) => ask[one] != null) ??
    "rpo"
  );
}

/** What can be chosen to ask: of cases only where there are some. */
function namesOf(kind: Kind, hasCases: boolean): Record<Kind, string> {
  const some = Object.entries(ASKS).filter(([one]) => hasCases || !one.startsWith("stands") || one === kind);
  return Object.fromEntries(some.map(([one, { name }]) => [one, name])) as Record<Kind, string>;
}
