import { Box, Button, Stack } from "@mui/material";
import type { LossCase } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { SeveralWords } from "../../shared/SeveralWords";
import { TextWord } from "../../shared/TextWord";
import { TimeWord } from "../../shared/TimeWord";

/** A case of loss in sentences; which sites and targets it takes is shown and chosen on the picture below. */
export function CaseEditor({ chosen }: { chosen: LossCase }) {
  const { design, canEdit, save } = useDesign();
  const { takeOut, dialog } = useTakeOut();
  const name = chosen.name || chosen.id;
  const keep = (change: Partial<LossCase>, what: string) =>
    save("loss_cases", chosen.id, { ...chosen, ...change }, `${name}: ${what}`);
  const plans = design.document.recovery_plans ?? [];
  const lost = chosen.lost ?? { sites: [], targets: [], source: true };
  return (
    <Stack sx={{ gap: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the loss"
          value={chosen.name ?? ""}
          placeholder={chosen.id}
          disabled={!canEdit}
          width={320}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button color="error" onClick={() => takeOut("loss_cases", chosen.id, name)}>
            Remove
          </Button>
        )}
      </Stack>
      <Line label="What is lost">
        The originals
        <Choice
          label="Whether the originals are lost"
          value={lost.source === false ? "there" : "lost"}
          options={{ lost: "are lost", there: "are still there" }}
          disabled={!canEdit}
          onChange={(word) => void keep({ lost: { ...lost, source: word === "lost" } }, `originals ${word}`)}
        />
        ; it went unnoticed for
        <TimeWord
          label="How long it went unnoticed"
          value={chosen.unnoticed}
          disabled={!canEdit}
          onKeep={(unnoticed) => keep({ unnoticed }, `unnoticed ${unnoticed ?? "for no time"}`)}
        />
        . All is brought back by
        <Choice
          label="Plan of the loss"
          value={chosen.plan ?? ""}
          options={{ "": "no plan", ...Object.fromEntries(plans.map((one) => [one.id, one.name || one.id])) }}
          disabled={!canEdit}
          onChange={(plan) => void keep({ plan: plan || null }, `brought back by ${plan || "no plan"}`)}
        />
      </Line>
      <IntruderLine chosen={chosen} onKeep={keep} />
      {dialog}
    </Stack>
  );
}

interface IntruderProps {
  chosen: LossCase;
  onKeep: (change: Partial<LossCase>, what: string) => Promise<boolean>;
}

/** Who deletes what, under which accounts and with which rights. */
function IntruderLine({ chosen, onKeep }: IntruderProps) {
  const { design, canEdit } = useDesign();
  const accounts = [
    ...new Set(design.document.targets.flatMap((one) => (one.account ? [one.account] : []))),
  ].sort();
  return (
    <Line label="Intruder">
      <Choice
        label="Whether there is an intruder"
        value={chosen.intruder ? "yes" : "no"}
        options={{ no: "Nobody deletes anything", yes: "An intruder deletes what no lock holds" }}
        disabled={!canEdit || (accounts.length === 0 && !chosen.intruder)}
        onChange={(word) =>
          void onKeep(
            { intruder: word === "yes" ? { accounts: accounts.slice(0, 1), rights: "account" } : null },
            word === "yes" ? "with an intruder" : "without an intruder",
          )
        }
      />
      {chosen.intruder ? (
        <>
          under the accounts
          <SeveralWords
            label="Accounts of the intruder"
            values={chosen.intruder.accounts}
            options={Object.fromEntries(accounts.map((one) => [one, one]))}
            disabled={!canEdit}
            onChange={(next) =>
              void onKeep(
                { intruder: { rights: chosen.intruder?.rights ?? "account", accounts: next } },
                `accounts ${next.join(", ")}`,
              )
            }
          />
          with
          <Choice
            label="Rights of the intruder"
            value={chosen.intruder.rights ?? "account"}
            options={{
              account: "the account's rights",
              special: "special rights, which lift liftable locks",
            }}
            disabled={!canEdit}
            onChange={(rights) =>
              void onKeep(
                { intruder: { accounts: chosen.intruder?.accounts ?? [], rights } },
                `rights ${rights}`,
              )
            }
          />
        </>
      ) : (
        accounts.length === 0 && "(no target names an account yet)"
      )}
    </Line>
  );
}
