import AddIcon from "@mui/icons-material/Add";
import { Button, Stack, Typography } from "@mui/material";
import type { ExtraCost } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { ChosenWorkloads } from "../../shared/ChosenWorkloads";
import { DateWord } from "../../shared/DateWord";
import { freshId } from "../../shared/ids";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";

const EVERY = { month: "a month", year: "a year" };
const FOR = {
  design: "in all",
  workload: "for each workload",
  machine: "for each machine",
  tb: "for each TB of source",
};

/** What costs beside storage, in sentences: licences, rent, work. */
export function BesideCosts() {
  const { design, canEdit, save } = useDesign();
  const costs = design.document.costs ?? [];
  const add = () => {
    const id = freshId("cost", costs);
    const start = { id, name: "Licences", amount: 0, every: "month", for: "machine" } as ExtraCost;
    void save("costs", id, start, "a cost beside storage");
  };
  return (
    <Stack sx={{ px: 2, py: 1, gap: 1 }}>
      {costs.length === 0 && (
        <Typography color="textSecondary">
          Nothing beside storage yet: licences, rent and work have their place here.
        </Typography>
      )}
      {costs.map((one) => (
        <OneCost key={one.id} cost={one} />
      ))}
      {canEdit && (
        <Button startIcon={<AddIcon />} sx={{ alignSelf: "flex-start" }} onClick={add}>
          Add a cost
        </Button>
      )}
    </Stack>
  );
}

function OneCost({ cost }: { cost: ExtraCost }) {
  const { design, canEdit, save } = useDesign();
  const { takeOut, dialog } = useTakeOut();
  const name = cost.name || cost.id;
  const keep = (change: Partial<ExtraCost>, what: string) =>
    save("costs", cost.id, { ...cost, ...change }, `${name}: ${what}`);
  const date = (field: "from" | "until", label: string) => (
    <DateWord
      label={`${label} of ${name}`}
      value={cost[field]}
      disabled={!canEdit}
      placeholder="always"
      onKeep={(day) => keep({ [field]: day }, `${label.toLowerCase()} ${day ?? "always"}`)}
    />
  );
  return (
    <Stack component="section" aria-label={`The cost ${name}`} sx={{ gap: 0.5 }}>
      <Line label={name}>
        <TextWord
          label={`Name of the cost ${name}`}
          value={cost.name ?? ""}
          disabled={!canEdit}
          width={180}
          onKeep={(next) => keep({ name: next }, `called ${next}`)}
        />
        cost {design.document.currency}
        <AmountWord
          label={`Amount of ${name}`}
          value={cost.amount}
          disabled={!canEdit}
          width={90}
          onKeep={(amount) => keep({ amount }, `${amount} ${EVERY[cost.every ?? "month"]}`)}
        />
        <Choice
          label={`How often ${name} is paid`}
          value={cost.every ?? "month"}
          options={EVERY}
          disabled={!canEdit}
          onChange={(every) => void keep({ every }, `paid ${EVERY[every]}`)}
        />
        <Choice
          label={`What ${name} is paid for`}
          value={cost.for ?? "design"}
          options={FOR}
          disabled={!canEdit}
          onChange={(word) => void keep({ for: word }, FOR[word])}
        />
        , from {date("from", "From")} until {date("until", "Until")}
        {canEdit && (
          <RemoveButton label={`Remove the cost ${name}`} onRemove={() => takeOut("costs", cost.id, name)} />
        )}
      </Line>
      {(cost.for ?? "design") !== "design" && (
        <ChosenWorkloads
          label={`${name}; all where none is named`}
          chosen={cost.workloads ?? {}}
          onKeep={(workloads, what) => keep({ workloads }, what)}
        />
      )}
      {dialog}
    </Stack>
  );
}
