import { Button, Stack } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../api/client";
import type { CalendarRead } from "../../api/types";
import { useDesign } from "../../design/context";
import { FileButton } from "../../shared/FileButton";
import { freshId } from "../../shared/ids";
import { Refusal } from "../../shared/Refusal";
import { CalendarDialog } from "./CalendarDialog";

/** A cadence as a calendar file, and another one from such a file, after a look at what it would be. */
export function CalendarTools({ cadence }: { cadence: string | undefined }) {
  const { design, save, canEdit } = useDesign();
  const navigate = useNavigate();
  const [read, setRead] = useState<CalendarRead | null>(null);
  const id = design.id;
  const look = useMutation({
    mutationFn: async (file: File) => {
      const body = { text: await file.text(), key: freshId("cadence", design.document.cadences) };
      const found = await unwrap(
        client.POST("/api/designs/{id}/calendars", { params: { path: { id } }, body }),
      );
      const name = found.cadence.name || file.name.replace(/\.ics$/, "");
      return { ...found, cadence: { ...found.cadence, name } };
    },
    onSuccess: setRead,
  });
  const take = async ({ cadence: wanted }: CalendarRead) => {
    if (await save("cadences", wanted.id, wanted, "added a cadence from a calendar")) {
      setRead(null);
      navigate(`/rules/cadences/${wanted.id}`);
    }
  };
  return (
    <>
      <Stack direction="row" sx={{ justifyContent: "flex-end" }}>
        {cadence !== undefined && (
          <Button
            component="a"
            href={`/api/designs/${id}/calendar.ics?cadence=${encodeURIComponent(cadence)}`}
            download
          >
            Its runs as a calendar
          </Button>
        )}
        {canEdit && (
          <FileButton
            accept=".ics,text/calendar"
            loading={look.isPending}
            onFile={(file) => look.mutate(file)}
          >
            Make a cadence of a calendar
          </FileButton>
        )}
      </Stack>
      <Refusal error={look.error} />
      {read && (
        <CalendarDialog
          read={read}
          zone={design.document.timezone}
          onTake={() => void take(read)}
          onClose={() => setRead(null)}
        />
      )}
    </>
  );
}
