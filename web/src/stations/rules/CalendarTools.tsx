import { Button, Stack } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../api/client";
import { useDesign } from "../../design/context";
import { FileButton } from "../../shared/FileButton";
import { freshId } from "../../shared/ids";
import { Refusal } from "../../shared/Refusal";

/** A cadence as a calendar file, and another one from such a file. */
export function CalendarTools({ cadence }: { cadence: string | undefined }) {
  const { design, save, canEdit } = useDesign();
  const navigate = useNavigate();
  const id = design.id;
  const read = useMutation({
    mutationFn: async (file: File) => {
      const key = freshId("cadence", design.document.cadences);
      const body = { text: await file.text(), key };
      const found = await unwrap(
        client.POST("/api/designs/{id}/calendars", { params: { path: { id } }, body }),
      );
      const named = { ...found, name: found.name || file.name.replace(/\.ics$/, "") };
      if (await save("cadences", key, named, "added a cadence from a calendar"))
        navigate(`/rules/cadences/${key}`);
    },
  });
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
            loading={read.isPending}
            onFile={(file) => read.mutate(file)}
          >
            A cadence from a calendar
          </FileButton>
        )}
      </Stack>
      <Refusal error={read.error} />
    </>
  );
}
