import { Box, Button, Stack, Typography } from "@mui/material";
import { useNavigate } from "react-router";
import type { Copy, RoutePart } from "../../api/types";
import { useDesign } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { Choice } from "../../shared/Choice";
import { FindingNotes } from "../../shared/FindingNotes";
import { Line } from "../../shared/Line";
import { TextWord } from "../../shared/TextWord";
import { SERIF } from "../../theme/theme";
import { withCopy } from "./copies";
import { KeepWords } from "./KeepWords";
import { LockLines } from "./LockLines";
import { StepDownLines } from "./StepDownLines";
import { TakeWords } from "./TakeWords";
import { TransferLines } from "./TransferLines";

interface Props {
  route: RoutePart;
  copy: Copy;
  sentence: string | undefined;
  workloads: readonly string[];
  /** The last minute before the design starts. */
  beforeStart: string;
}

export interface CopyLineProps {
  route: RoutePart;
  copy: Copy;
  canEdit: boolean;
  keep: (change: Partial<Copy>, what: string) => Promise<boolean>;
  tryOut: (change: Partial<Copy>) => void;
}

/** One copy in sentences whose words are chosen and typed. */
export function CopyEditor({ route, copy, sentence, workloads, beforeStart }: Props) {
  const { canEdit, command, save, tryOut } = useDesign();
  const navigate = useNavigate();
  const name = copy.name || copy.id;
  const titled = `${route.name || route.id}: ${name}`;
  const changed = (change: Partial<Copy>) => withCopy(route, { ...copy, ...change });
  const keep = (change: Partial<Copy>, what: string) =>
    save("routes", route.id, changed(change), `${titled}: ${what}`);
  const props: CopyLineProps = {
    route,
    copy,
    canEdit,
    keep,
    tryOut: (change) => tryOut([{ part: "routes", key: route.id, value: changed(change) }]),
  };
  const findings = useFindings().filter((one) => one.route === route.id && one.copy === copy.id);
  const remove = async () => {
    const act = { do: "take-out-copy", route: route.id, copy: copy.id } as const;
    if (await command(act, `removed the copy ${titled}`)) navigate(`/routes/${encodeURIComponent(route.id)}`);
  };
  return (
    <Stack component="section" aria-label={`Copy ${titled}`} sx={{ gap: 1 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the copy"
          value={copy.name ?? ""}
          placeholder={copy.id}
          disabled={!canEdit}
          width={220}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <Button onClick={() => navigate(`/routes/${encodeURIComponent(route.id)}`)}>
          of {route.name || route.id}
        </Button>
        <Box sx={{ flex: 1 }} />
        {canEdit && route.copies.length > 1 && (
          <Button color="error" onClick={() => void remove()}>
            Remove
          </Button>
        )}
      </Stack>
      <Typography
        data-testid="sentence"
        sx={{ fontFamily: SERIF, fontSize: 16, lineHeight: 1.35, minHeight: "1.35em" }}
      >
        {sentence ?? ""}
      </Typography>
      <TakeWords {...props} />
      <KeepWords {...props} />
      <LockLines
        label="Lock"
        locks={copy.lock ?? []}
        copy={copy}
        canEdit={canEdit}
        keep={(lock, what) => void keep({ lock }, what)}
        tryOut={(lock) => props.tryOut({ lock })}
      />
      <StepDownLines {...props} />
      <TransferLines {...props} />
      <SeededLine {...props} workloads={workloads} beforeStart={beforeStart} />
      <FindingNotes findings={findings} />
    </Stack>
  );
}

function SeededLine({
  route,
  copy,
  canEdit,
  workloads,
  beforeStart,
}: CopyLineProps & Pick<Props, "workloads" | "beforeStart">) {
  const { design, command } = useDesign();
  const here = (design.document.opening ?? []).filter(
    (one) => one.route === route.id && one.copy === copy.id,
  );
  const isThere = here.length > 0;
  const change = (word: "new" | "there") => {
    const taken = word === "there" ? beforeStart : null;
    const what = word === "there" ? "begins with a full that is already there" : "begins with nothing";
    void command(
      { do: "seed", route: route.id, copy: copy.id, taken },
      `${route.name || route.id}: ${copy.name || copy.id} ${what}`,
    );
  };
  return (
    <Line>
      When the design starts
      <Choice
        label="What is there when the design starts"
        value={isThere ? "there" : "new"}
        options={{
          new: "nothing is there yet",
          there:
            here.length > workloads.length
              ? `${here.length} points are there`
              : "its first full is already there",
        }}
        disabled={!canEdit || workloads.length === 0 || beforeStart === ""}
        onChange={change}
      />
    </Line>
  );
}
