import { Autocomplete, Box, Dialog, TextField, Typography } from "@mui/material";
import { useMemo } from "react";
import { useNavigate } from "react-router";
import { useDesign } from "../design/context";
import { STATIONS } from "./stations";

interface Found {
  id: string;
  name: string;
  what: string;
  go: () => void;
}

export interface Act {
  name: string;
  act: () => void;
}

const MOST = 60;

/** What every typed word is found in: the name, the kind of thing, or the id. */
function filter(options: readonly Found[], { inputValue }: { inputValue: string }): Found[] {
  const words = inputValue.toLowerCase().split(/\s+/).filter(Boolean);
  const found: Found[] = [];
  for (const one of options) {
    const text = `${one.name} ${one.what} ${one.id}`.toLowerCase();
    if (words.every((word) => text.includes(word))) found.push(one);
    if (found.length === MOST) break;
  }
  return found;
}

/** Jumps to any object of the design, or does any action, by a few letters of its name. */
export function FindDialog({ actions, onClose }: { actions: readonly Act[]; onClose: () => void }) {
  const found = useFound(actions);
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{ paper: { "aria-label": "Find an object or an action" } }}
      fullWidth
      maxWidth="sm"
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start" } }}
    >
      <Box sx={{ p: 2 }}>
        <Autocomplete
          open
          autoHighlight
          disablePortal
          options={found}
          filterOptions={filter}
          getOptionLabel={(one) => one.name}
          getOptionKey={(one) => `${one.what}/${one.id}`}
          noOptionsText="Nothing in this design is called that"
          forcePopupIcon={false}
          onClose={(_, reason) => reason === "escape" && onClose()}
          onChange={(_, one) => {
            if (!one) return;
            onClose();
            one.go();
          }}
          renderOption={({ key, ...props }, one) => (
            <Box component="li" key={key} {...props}>
              <Typography noWrap>{one.name}</Typography>
              <Typography
                color="textSecondary"
                variant="body2"
                sx={{ ml: "auto", pl: 2, whiteSpace: "nowrap" }}
              >
                {one.what}
              </Typography>
            </Box>
          )}
          renderInput={(params) => <TextField {...params} autoFocus label="Find an object or an action" />}
          slotProps={{
            popper: {
              sx: { position: "relative !important", transform: "none !important", width: "100% !important" },
            },
            listbox: { sx: { maxHeight: 380 } },
          }}
        />
      </Box>
    </Dialog>
  );
}

function useFound(actions: readonly Act[]): Found[] {
  const { design } = useDesign();
  const navigate = useNavigate();
  return useMemo(() => {
    const { sites, targets, workloads, cadences, ladders, routes } = design.document;
    const at = (what: string, path: (id: string) => string) => (one: { id: string; name?: string }) => ({
      id: one.id,
      name: one.name || one.id,
      what,
      go: () => navigate(path(encodeURIComponent(one.id))),
    });
    return [
      ...STATIONS.map((one) => ({
        id: one.path,
        name: one.name,
        what: "station",
        go: () => navigate(one.path),
      })),
      ...routes.map(at("route", (id) => `/routes/${id}`)),
      ...routes.flatMap((route) =>
        route.copies.map((copy) => ({
          id: `${route.id}/${copy.id}`,
          name: `${route.name || route.id}: ${copy.name || copy.id}`,
          what: "copy",
          go: () => navigate(`/routes/${encodeURIComponent(route.id)}/${encodeURIComponent(copy.id)}`),
        })),
      ),
      ...targets.map(at("target", (id) => `/targets/${id}`)),
      ...sites.map(at("site", () => "/targets")),
      ...ladders.map(at("ladder", (id) => `/rules/ladders/${id}`)),
      ...cadences.map(at("cadence", (id) => `/rules/cadences/${id}`)),
      ...actions.map(({ name, act }) => ({ id: name, name, what: "action", go: act })),
      ...workloads.map(at("workload", (id) => `/workloads/${id}`)),
    ];
  }, [design.document, navigate, actions]);
}
