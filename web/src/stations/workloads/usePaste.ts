import { useCallback, useState } from "react";
import { client, ProblemError, unwrap } from "../../api/client";
import type { Workload, WorkloadRowsOut } from "../../api/types";
import type { Change } from "../../design/changes";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import type { Column } from "./columns";
import type { Cell } from "./useSelection";

/** A block that was pasted and has rows with a fault: nothing of it is saved yet. */
export interface Refused {
  read: WorkloadRowsOut["read"] | null;
  words: string;
}

/** Reads pasted blocks through the server and saves them in one edit, all rows or none. */
export function usePaste(workloads: readonly Workload[], shown: readonly Column[]) {
  const { design, edit } = useDesign();
  const [refused, setRefused] = useState<Refused | null>(null);
  const id = design.id;
  const paste = useCallback(
    async (text: string, at: Cell) => {
      const width = Math.max(...text.split("\n").map((line) => line.split("\t").length));
      const columns = Array.from({ length: width }, (_, place) => shown[at.column + place]?.reads ?? null);
      const keys = workloads.slice(at.row).map((one) => one.id);
      const body = { text, columns, keys, header: false, block: true };
      try {
        const { read } = await unwrap(
          client.POST("/api/designs/{id}/workload-rows", { params: { path: { id } }, body }),
        );
        if (read.faults.length > 0) setRefused({ read, words: "" });
        else await edit(changesOf(read), `pasted ${countText(read.rows.length)} rows`);
      } catch (error) {
        setRefused({
          read: null,
          words: error instanceof ProblemError ? error.words : "This cannot be read",
        });
      }
    },
    [id, workloads, shown, edit],
  );
  const settle = useCallback(
    async (leaveOut: boolean) => {
      const read = refused?.read;
      setRefused(null);
      if (leaveOut && read && read.rows.length > 0)
        await edit(changesOf(read), `pasted ${countText(read.rows.length)} rows`);
    },
    [refused, edit],
  );
  return { paste, refused, settle };
}

/** The changes that a table comes to; rows that say what is there already change nothing. */
export function changesOf(read: WorkloadRowsOut["read"]): Change[] {
  return read.rows
    .filter((row) => row.action !== "same")
    .map((row): Change => ({ part: "workloads", key: row.value.id, value: row.value }));
}
