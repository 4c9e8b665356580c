import { Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Workload } from "../../api/types";
import type { Change } from "../../design/changes";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import { EDITED } from "./columns";
import type { Field } from "./rows";

type What = Field | "add tag" | "remove tag";

/** Sets one thing for all chosen workloads, in one edit. */
interface Props {
  chosen: readonly Workload[];
  onDone: () => void;
  onRemove: (workload: Workload) => void;
}

export function BulkBar({ chosen, onDone, onRemove }: Props) {
  const { design, edit, type } = useDesign();
  const [why, setWhy] = useState<string | null>(null);
  const [what, setWhat] = useState<What>("add tag");
  const [text, setText] = useState("");
  const [busy, setBusy] = useState(false);
  const options: [What, string][] = [
    ["add tag", "Add the tag"],
    ["remove tag", "Remove the tag"],
    ...EDITED.filter((column) => column.field !== "name").map((column): [What, string] => [
      column.field,
      `Set ${column.name.toLowerCase()} to`,
    ]),
  ];
  const choices =
    what === "site" ? design.document.sites.map((site) => [site.id, site.name || site.id]) : null;
  const run = async (words: string) => {
    setBusy(true);
    const tags = chosen.map(
      (one): Change => ({ part: "workloads", key: one.id, value: withTag(one, what, text) }),
    );
    const reads = EDITED.find((column) => column.field === what)?.reads;
    const refused = reads
      ? await type(
          chosen.map((one) => ({ part: "workload cells", key: one.id, cells: { [reads]: text } })),
          words,
        )
      : (await edit(tags, words))
        ? null
        : "";
    setBusy(false);
    setWhy(refused);
    if (refused === null) onDone();
  };
  const many = chosen.length === 1 ? "1 workload" : `${countText(chosen.length)} workloads`;
  const apply = () => {
    const said = options.find(([name]) => name === what)?.[1] ?? what;
    void run(`${said} ${text} for ${many}`);
  };
  return (
    <Stack
      direction="row"
      role="toolbar"
      aria-label="Chosen workloads"
      sx={{
        gap: 1,
        alignItems: "center",
        border: 1,
        borderColor: "primary.main",
        borderRadius: 1,
        p: 1,
        bgcolor: "background.paper",
      }}
    >
      <Typography sx={{ fontWeight: 600 }}>{many} chosen</Typography>
      <TextField
        select
        value={what}
        onChange={(event) => {
          setWhat(event.target.value as What);
          setText("");
        }}
        slotProps={{ select: { SelectDisplayProps: { "aria-label": "What to set" } } }}
        sx={{ minWidth: 170 }}
      >
        {options.map(([name, words]) => (
          <MenuItem key={name} value={name} dense>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        {...(choices ? { select: true } : {})}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && apply()}
        slotProps={{
          htmlInput: { "aria-label": "Value for all chosen" },
          select: { SelectDisplayProps: { "aria-label": "Value for all chosen" } },
        }}
        sx={{ width: 150 }}
      >
        {choices?.map(([id, name]) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Button
        variant="contained"
        onClick={apply}
        loading={busy}
        disabled={
          text.trim() === "" && what !== "until" && what !== "from" && what !== "logs" && what !== "tags"
        }
      >
        Set for all
      </Button>
      <Typography role="status" aria-label="Why it was refused" color="error">
        {why}
      </Typography>
      {chosen.length === 1 && chosen[0] && (
        <Button color="error" sx={{ ml: "auto" }} onClick={() => chosen[0] && onRemove(chosen[0])}>
          Remove
        </Button>
      )}
      <Button sx={{ ml: chosen.length === 1 ? 0 : "auto" }} onClick={onDone}>
        Choose none
      </Button>
    </Stack>
  );
}

function withTag(workload: Workload, what: What, text: string): Workload {
  const tags = workload.tags ?? [];
  const tag = text.trim();
  if (what === "remove tag") return { ...workload, tags: tags.filter((one) => one !== tag) };
  return tags.includes(tag) ? workload : { ...workload, tags: [...tags, tag] };
}
