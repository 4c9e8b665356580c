import { Box, Button, Divider, Popover, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { useDesign } from "../design/context";
import { NameDialog } from "./NameDialog";
import { useDesigns } from "./openDesign";
import { DropDialog, useVariants } from "./useVariants";

interface Props {
  anchor: HTMLElement | null;
  onClose: () => void;
  onNew: () => void;
  onSettings: () => void;
  onHistory: () => void;
  onBring: () => void;
  onTokens: () => void;
  onStyle: () => void;
}

const FILES = [
  ["JSON", "document", "json"],
  ["YAML", "document.yaml", "yaml"],
  ["calendar", "calendar.ics", "ics"],
] as const;

type Asked = "branch" | "rename" | "drop" | null;

/** The designs of the person and their variants, and what can be done with the one that is open. */
export function DesignMenu(props: Props) {
  const { anchor, onClose, onNew, onSettings, onHistory, onBring, onTokens, onStyle } = props;
  const { design, canEdit } = useDesign();
  const { designs, open } = useDesigns();
  const [asked, setAsked] = useState<Asked>(null);
  const act = useVariants();
  const families = [...new Set(designs.map((one) => one.family))];
  const siblings = designs.filter(
    (one) => one.family === designs.find((other) => other.id === design.id)?.family,
  );
  const then = (work: () => void) => () => {
    onClose();
    work();
  };
  return (
    <>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={onClose}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{
          // A landmark, so that what is read aloud stands in one.
          paper: {
            component: "section",
            sx: { width: 360, border: 1, borderColor: "divider", p: 2 },
            "aria-label": "Designs",
          } as object,
        }}
      >
        {families.map((family) => (
          <Box key={family} sx={{ mb: 1 }}>
            <Typography variant="h3">{designs.find((one) => one.family === family)?.name}</Typography>
            {designs
              .filter((one) => one.family === family)
              .map((one) => (
                <Button
                  key={one.id}
                  fullWidth
                  sx={{ justifyContent: "flex-start", fontWeight: one.id === design.id ? 700 : 400 }}
                  aria-current={one.id === design.id ? "true" : undefined}
                  onClick={then(() => open(one.id, window.location.pathname.replace(/^\/designs\/\d+/, "")))}
                >
                  {one.variant}
                  {one.current && (
                    <Typography component="span" variant="body2" color="textSecondary" sx={{ ml: 1 }}>
                      current
                    </Typography>
                  )}
                </Button>
              ))}
          </Box>
        ))}
        {act.error && (
          <Typography role="alert" color="error">
            {act.error}
          </Typography>
        )}
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          {canEdit && <Button onClick={() => setAsked("branch")}>Branch a variant</Button>}
          {canEdit && <Button onClick={() => setAsked("rename")}>Rename the variant</Button>}
          {canEdit && !design.current && <Button onClick={() => act.makeCurrent()}>Make it current</Button>}
          {design.role === "owner" && (!design.current || siblings.length === 1) && (
            <Button color="error" onClick={() => setAsked("drop")}>
              {siblings.length === 1 ? "Remove the design" : "Remove the variant"}
            </Button>
          )}
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          <Button onClick={then(onSettings)}>Settings</Button>
          <Button onClick={then(onHistory)}>History</Button>
          <Button onClick={then(onTokens)}>Tokens for scripts</Button>
          <Button onClick={then(onStyle)}>Numbers and dates</Button>
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap", alignItems: "center" }}>
          <Typography color="textSecondary">Keep as a file</Typography>
          {FILES.map(([name, path, ending]) => (
            <Button
              key={path}
              component="a"
              href={`/api/designs/${design.id}/${path}`}
              download={`${design.document.name}.${ending}`}
            >
              {name}
            </Button>
          ))}
        </Stack>
        <Divider sx={{ my: 1 }} />
        <Stack direction="row" sx={{ flexWrap: "wrap" }}>
          <Button onClick={then(onBring)}>Import a document</Button>
          <Button onClick={then(onNew)}>New design</Button>
        </Stack>
      </Popover>
      {asked === "drop" && (
        <DropDialog
          name={design.variant}
          onClose={() => setAsked(null)}
          onDrop={() => {
            setAsked(null);
            onClose();
            act.drop();
          }}
        />
      )}
      {asked && asked !== "drop" && (
        <NameDialog
          title={asked === "branch" ? "Branch a variant" : "Rename the variant"}
          hint={
            asked === "branch"
              ? `It starts as a copy of "${design.variant}"; its changes are measured from there.`
              : "What is this variant called?"
          }
          start={asked === "branch" ? "" : design.variant}
          onClose={() => setAsked(null)}
          onName={(name) => {
            setAsked(null);
            onClose();
            if (asked === "branch") act.branch(name);
            else act.rename(name);
          }}
        />
      )}
    </>
  );
}
