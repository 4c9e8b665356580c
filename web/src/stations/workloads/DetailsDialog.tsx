import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack } from "@mui/material";
import { Link } from "react-router";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { TextWord } from "../../shared/TextWord";
import { GrowthLines } from "./GrowthLines";
import { type LinesProps, MemberLines } from "./MemberLines";
import { SpeedLine } from "./SpeedLine";

/** What a row of the grid has no room for: dated steps of size, speeds, what is alike with others, the parts of an index. */
export function DetailsDialog({ workload, onClose }: { workload: Workload; onClose: () => void }) {
  const { canEdit, save } = useDesign();
  const name = workload.name || workload.id;
  const keep = (change: Partial<Workload>, what: string) =>
    save("workloads", workload.id, { ...workload, ...change }, `${name}: ${what}`);
  const props = { workload, canEdit, keep };
  return (
    <Dialog open onClose={onClose} aria-labelledby="details-title" fullWidth maxWidth="md">
      <DialogTitle id="details-title">Details of {name}</DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 1.25 }}>
          <GrowthLines {...props} />
          <SpeedLine {...props} />
          <AlikeLine {...props} />
          <MemberLines {...props} />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button component={Link} to={`/forecast/points?workload=${workload.id}`} sx={{ mr: "auto" }}>
          All its points
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function AlikeLine({ workload, canEdit, keep }: LinesProps) {
  const { alike } = workload;
  return (
    <Line>
      With others it has
      <Choice
        label="What it has in common"
        value={alike ? "some" : "none"}
        options={{ none: "nothing in common", some: "in common" }}
        disabled={!canEdit}
        onChange={(word) =>
          void keep(
            { alike: word === "none" ? null : { group: "alike", percent: 50 } },
            `has ${word} in common`,
          )
        }
      />
      {alike && (
        <>
          <AmountWord
            label="Share in common in percent"
            value={alike.percent}
            disabled={!canEdit}
            onKeep={(percent) => keep({ alike: { ...alike, percent } }, `${percent} % in common`)}
          />
          % of its data, with the group
          <TextWord
            label="Group of those that are alike"
            value={alike.group}
            disabled={!canEdit}
            width={130}
            onKeep={(group) => keep({ alike: { ...alike, group } }, `alike with ${group}`)}
          />
        </>
      )}
    </Line>
  );
}
