import type { Copy } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { durationWords } from "../../shared/durations";
import { Line } from "../../shared/Line";
import { PriorityWord } from "../../shared/PriorityWord";
import { TextWord } from "../../shared/TextWord";
import { TimeWord } from "../../shared/TimeWord";
import { FIRST } from "../../shared/words";
import type { CopyLineProps } from "./CopyEditor";

const AT_CLOSE: Record<NonNullable<Copy["at_close"]>, string> = {
  finish: "what runs goes on",
  stop: "what is not over is given up",
};

/** When the transfers of a copy may start, how they are spread, whether they are read back, and which come first. */
export function TransferLines(props: CopyLineProps) {
  const { copy, canEdit, keep } = props;
  const { design } = useDesign();
  const target = design.document.targets.find((one) => one.id === copy.target);
  // A snapshot beside its source moves nothing; a replica elsewhere does.
  if (target?.media === "snapshot" && !copy.from) return null;
  return (
    <Line label="Transfers">
      Its transfers start
      <WindowWords {...props} />
      {copy.cadence && (
        <>
          ; those of one run are spread over
          <TimeWord
            label="Spread of a run"
            value={copy.spread}
            disabled={!canEdit}
            onKeep={(spread) => keep({ spread }, `spread over ${spread ? durationWords(spread) : "no time"}`)}
          />
        </>
      )}
      . When one is written it
      <Choice
        label="Whether it is read back"
        value={copy.verify ? "verify" : "end"}
        options={{ end: "is done", verify: "is read back, then done" }}
        disabled={!canEdit}
        onChange={(word) =>
          void keep({ verify: word === "verify" }, word === "verify" ? "is read back" : "is not read back")
        }
      />
      and comes
      <PriorityWord
        label="Priority of the copy"
        value={copy.priority}
        disabled={!canEdit}
        onKeep={(priority) => void keep({ priority }, `priority ${priority ?? "of its workloads"}`)}
      />
    </Line>
  );
}

function WindowWords({ copy, canEdit, keep }: CopyLineProps) {
  const { window } = copy;
  return (
    <>
      <Choice
        label="When its transfers may start"
        value={window ? "window" : "any"}
        options={{ any: "at any hour", window: "only from" }}
        disabled={!canEdit}
        onChange={(word) =>
          void keep(
            { window: word === "window" ? FIRST.window : null },
            word === "window" ? "a window" : "no window",
          )
        }
      />
      {window && (
        <>
          <TextWord
            label="Window opens"
            value={window.opens}
            disabled={!canEdit}
            width={66}
            onKeep={(opens) => keep({ window: { ...window, opens: opens.trim() } }, `opens ${opens}`)}
          />
          to
          <TextWord
            label="Window closes"
            value={window.closes}
            disabled={!canEdit}
            width={66}
            onKeep={(closes) => keep({ window: { ...window, closes: closes.trim() } }, `closes ${closes}`)}
          />
          , then
          <Choice
            label="At the close of the window"
            value={copy.at_close ?? "finish"}
            options={AT_CLOSE}
            disabled={!canEdit}
            onChange={(at_close) => void keep({ at_close }, AT_CLOSE[at_close])}
          />
        </>
      )}
    </>
  );
}
