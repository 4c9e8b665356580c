import type { Copy, Kind, Lock } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SeveralWords } from "../../shared/SeveralWords";
import { FIRST, KIND_NAMES } from "../../shared/words";

interface Props {
  label: string;
  locks: readonly Lock[];
  copy: Copy;
  canEdit: boolean;
  keep: (locks: Lock[], what: string) => void;
  tryOut: (locks: Lock[]) => void;
}

const MODES: Record<NonNullable<Lock["mode"]>, string> = {
  liftable: "which special rights can lift",
  final: "which nobody can lift",
};
/** A lock as one begins. */
export const NEW_LOCK: Lock = { for: FIRST.lock, mode: "final" };

type Scope = "all" | "rungs" | "kinds" | "runs";
const SCOPES: Record<Scope, string> = {
  all: "every point",
  rungs: "what these rungs pick",
  kinds: "points of these kinds",
  runs: "points of these runs",
};

/** The locks of a copy or of a step-down: how long, what, and who can lift them. */
export function LockLines({ label, locks, copy, canEdit, keep, tryOut }: Props) {
  const put = (at: number, lock: Lock | null) =>
    locks.flatMap((one, place) => (place !== at ? [one] : lock ? [lock] : []));
  return (
    <>
      {locks.map((lock, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: locks have no id, their place is what they are known by
        <Line key={at} label={`${label} ${at + 1}`}>
          Locks
          <ScopeWords
            label={label}
            lock={lock}
            copy={copy}
            canEdit={canEdit}
            onKeep={(next, what) => keep(put(at, next), what)}
          />
          for
          <Choice
            label={`Length of ${label}`}
            value={lock.for === "kept" ? "kept" : "time"}
            options={{ time: "a time:", kept: "as long as it is kept," }}
            disabled={!canEdit}
            onChange={(way) =>
              keep(put(at, { ...lock, for: way === "kept" ? "kept" : FIRST.lock }), `locked ${way}`)
            }
          />
          {lock.for !== "kept" && (
            <DurationWord
              label={`Time of ${label}`}
              value={lock.for}
              disabled={!canEdit}
              onTry={(time) => tryOut(put(at, { ...lock, for: time }))}
              onKeep={(time) => keep(put(at, { ...lock, for: time }), `locked ${time}`)}
            />
          )}
          <Choice
            label={`Mode of ${label}`}
            value={lock.mode ?? "liftable"}
            options={MODES}
            disabled={!canEdit}
            onChange={(mode) => keep(put(at, { ...lock, mode }), MODES[mode])}
          />
          {canEdit && (
            <RemoveButton
              label={`Remove ${label} ${at + 1}`}
              onRemove={() => keep(put(at, null), "removed a lock")}
            />
          )}
        </Line>
      ))}
    </>
  );
}

function ScopeWords({
  label,
  lock,
  copy,
  canEdit,
  onKeep,
}: {
  label: string;
  lock: Lock;
  copy: Copy;
  canEdit: boolean;
  onKeep: (lock: Lock, what: string) => void;
}) {
  const { design } = useDesign();
  const rungs = design.document.ladders.find((one) => one.id === copy.ladder)?.rungs ?? [];
  const runs = design.document.cadences.find((one) => one.id === copy.cadence)?.runs ?? [];
  const names: Record<Scope, Record<string, string>> = {
    all: {},
    rungs: Object.fromEntries(
      rungs.filter((rung) => rung.pick === "first").map((rung) => [rung.name, rung.name]),
    ),
    kinds: KIND_NAMES,
    runs: Object.fromEntries(runs.map((run) => [run.id, run.name || run.id])),
  };
  const scope: Scope = lock.rungs ? "rungs" : lock.kinds ? "kinds" : lock.runs ? "runs" : "all";
  const with_ = (next: Scope, chosen: string[]): Lock => {
    const { rungs: _rungs, kinds: _kinds, runs: _runs, ...bare } = lock;
    if (next === "rungs") return { ...bare, rungs: chosen };
    if (next === "kinds") return { ...bare, kinds: chosen as Kind[] };
    return next === "runs" ? { ...bare, runs: chosen } : bare;
  };
  const scopes = Object.fromEntries(
    Object.entries(SCOPES).filter(
      ([one]) => one === "all" || one === scope || Object.keys(names[one as Scope]).length > 0,
    ),
  ) as Record<Scope, string>;
  return (
    <>
      <Choice
        label={`What ${label} holds`}
        value={scope}
        options={scopes}
        disabled={!canEdit}
        onChange={(next) =>
          onKeep(with_(next, Object.keys(names[next]).slice(0, 1)), `locks ${SCOPES[next]}`)
        }
      />
      {scope !== "all" && (
        <SeveralWords
          label={`Which of ${label}`}
          values={lock[scope] ?? []}
          options={names[scope]}
          disabled={!canEdit}
          onChange={(chosen) => onKeep(with_(scope, chosen), `locks ${chosen.join(", ")}`)}
        />
      )}
    </>
  );
}
