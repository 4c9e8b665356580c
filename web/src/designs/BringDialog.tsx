import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import type { DesignLine } from "../api/types";
import { useDesign } from "../design/context";
import { Refusal } from "../shared/Refusal";
import { TableField } from "../shared/TableField";
import { DocumentPreview } from "./DocumentPreview";

interface Props {
  onClose: () => void;
  onMade: (id: number) => void;
}

/** A document from a file or pasted: what it is and would do is shown first, then it is taken whole or not at all. */
export function BringDialog({ onClose, onMade }: Props) {
  const { design, canEdit } = useDesign();
  const cache = useQueryClient();
  const [text, setText] = useState("");
  const id = design.id;
  const read = useMutation({
    mutationFn: (document: string) =>
      unwrap(
        client.POST("/api/designs/{id}/documents", { params: { path: { id } }, body: { text: document } }),
      ),
  });
  const make = useMutation({
    mutationFn: (body: NonNullable<typeof read.data>["document"]) =>
      unwrap(client.POST("/api/designs", { body })),
    onSuccess: (line) => {
      cache.setQueryData<DesignLine[]>(["designs"], (before) => [...(before ?? []), line]);
      onClose();
      onMade(line.id);
    },
  });
  const replace = useMutation({
    // It replaces what it was compared with, and nothing that came since.
    mutationFn: ({ document, etag }: NonNullable<typeof read.data>) =>
      unwrap(
        client.PUT("/api/designs/{id}/document", {
          params: { path: { id }, header: { "If-Match": etag ?? "" } },
          body: document,
        }),
      ),
    // All that is known of the design is about what it was.
    onSuccess: () => window.location.reload(),
  });
  const look = (next: string) => {
    setText(next);
    make.reset();
    replace.reset();
    if (next.trim()) read.mutate(next);
    else read.reset();
  };
  const found = read.data;
  const busy = make.isPending || replace.isPending;
  return (
    <Dialog open onClose={onClose} aria-labelledby="bring-title" fullWidth maxWidth="md">
      <DialogTitle id="bring-title">Import a document</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary">
          A design document in JSON or YAML. Nothing is changed before you say so.
        </Typography>
        <TableField
          label="Paste a document here"
          value={text}
          onChange={look}
          accept=".json,.yaml,.yml,application/json"
        />
        <Refusal error={read.error ?? make.error ?? replace.error} />
        {found && <DocumentPreview read={found} instead={design.document.name} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        {canEdit && (
          <Button
            disabled={!found || found.differences.length === 0 || busy}
            onClick={() => found && replace.mutate(found)}
          >
            Put it in the place of this design
          </Button>
        )}
        <Button
          variant="contained"
          disabled={!found || busy}
          onClick={() => found && make.mutate(found.document)}
        >
          Make it a design of its own
        </Button>
      </DialogActions>
    </Dialog>
  );
}
