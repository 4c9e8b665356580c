import { Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, unwrap } from "../../api/client";
import { useDesign } from "../../design/context";
import { Refusal } from "../../shared/Refusal";
import { changesOf } from "./usePaste";

const FIELDS = ["name", "site", "size", "daily_change_percent", "annual_growth_percent"];

/** Asks for the first workload where the grid will stand; the server reads what is typed, as it reads a table. */
export function FirstWorkload() {
  const { design, edit, canEdit } = useDesign();
  const { sites } = design.document;
  const [typed, setTyped] = useState({
    name: "",
    site: sites[0]?.id ?? "",
    size: "",
    change: "",
    growth: "",
  });
  const [busy, setBusy] = useState(false);
  const read = useMutation({
    mutationFn: (cells: string[]) =>
      unwrap(
        client.POST("/api/designs/{id}/workload-rows", {
          params: { path: { id: design.id } },
          body: { text: cells.join("\t"), columns: FIELDS, header: false, block: true },
        }),
      ),
  });
  const put = (name: keyof typeof typed) => (event: { target: { value: string } }) =>
    setTyped({ ...typed, [name]: event.target.value });
  const add = async (event: FormEvent) => {
    event.preventDefault();
    // A second Enter while the server is slow would add it twice.
    if (busy) return;
    setBusy(true);
    await send().catch(() => null); // why it was refused stands in `read`
    setBusy(false);
  };
  const send = async () => {
    const { name, site, size, change, growth } = typed;
    const found = (await read.mutateAsync([name, site, size, change, growth])).read;
    if (found.faults.length === 0) await edit(changesOf(found), `added ${name.trim()}`);
  };
  const faults = read.data?.read.faults ?? [];
  const wrong = (field: string) => {
    const message = faults.find((one) => one.field === field)?.message;
    return { error: message !== undefined, helperText: message };
  };
  if (!canEdit) return <Typography>No workload yet.</Typography>;
  return (
    <Stack
      component="form"
      aria-label="The first workload"
      onSubmit={(event) => void add(event)}
      sx={{ maxWidth: 870, gap: 2 }}
    >
      <Typography>
        A workload is a body of data to protect: one machine, a share, a database, or many machines alike. A
        list of them can be imported.
      </Typography>
      <Stack direction="row" sx={{ gap: 1.5, flexWrap: "wrap" }}>
        <TextField
          label="Name of the workload"
          value={typed.name}
          onChange={put("name")}
          {...wrong("name")}
          autoFocus
          required
          sx={{ width: 220 }}
        />
        <TextField select label="Stands at" value={typed.site} onChange={put("site")} sx={{ width: 160 }}>
          {sites.map((site) => (
            <MenuItem key={site.id} value={site.id}>
              {site.name || site.id}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Size of it"
          placeholder="2.4 TB"
          value={typed.size}
          onChange={put("size")}
          {...wrong("size")}
          required
          sx={{ width: 130 }}
        />
        <TextField
          label="Changes a day, %"
          placeholder="1.5"
          value={typed.change}
          onChange={put("change")}
          {...wrong("daily_change_percent")}
          required
          sx={{ width: 140 }}
        />
        <TextField
          label="Grows a year, %"
          placeholder="12"
          value={typed.growth}
          onChange={put("growth")}
          {...wrong("annual_growth_percent")}
          required
          sx={{ width: 140 }}
        />
      </Stack>
      <Refusal error={read.error} />
      <Stack direction="row" sx={{ gap: 1.5 }}>
        <Button type="submit" variant="contained" loading={busy}>
          Add the workload
        </Button>
      </Stack>
    </Stack>
  );
}
