import { Box, Stack } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Navigate, NavLink, Route, Routes } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Readings } from "../../api/types";
import { useDesign } from "../../design/context";
import { Notice } from "../../shared/Notice";
import { CadenceView } from "./CadenceView";
import { HoldsView } from "./HoldsView";
import { LadderView } from "./LadderView";

/** Ladders and cadences, each edited in place. */
export function RulesStation() {
  const { readings, isComing } = useReadings();
  // What is read says how fields stand beside each other: without it they would move under the hand once it is there.
  const once = (view: ReactNode) => (isComing ? <Notice title="Reading the rules…" /> : view);
  return (
    <Stack sx={{ p: 2, gap: 1.5, minHeight: "100%" }}>
      <Stack component="nav" aria-label="Kinds of rule" direction="row" sx={{ gap: 3 }}>
        <Page to="/rules/ladders" name="Ladders: how long points stay" />
        <Page to="/rules/cadences" name="Cadences: when points are taken" />
        <Page to="/rules/holds" name="Holds: what must not go" />
      </Stack>
      <Routes>
        <Route path="ladders/:key?" element={once(<LadderView readings={readings} />)} />
        <Route path="cadences/:key?" element={once(<CadenceView readings={readings} />)} />
        <Route path="holds" element={<HoldsView />} />
        <Route path="*" element={<Navigate to="/rules/ladders" replace />} />
      </Routes>
    </Stack>
  );
}

function Page({ to, name }: { to: string; name: string }) {
  return (
    <Box
      component={NavLink}
      to={to}
      sx={{
        color: "text.secondary",
        textDecoration: "none",
        pb: 0.25,
        "&.active": { color: "text.primary", fontWeight: 600, borderBottom: 2, borderColor: "primary.main" },
      }}
    >
      {name}
    </Box>
  );
}

/**
 * All rules in words, for the revision and date that are shown; the last ones stay while newer ones come. `isComing` while
 * there are none yet and nothing has gone wrong.
 */
function useReadings(): { readings: Readings | undefined; isComing: boolean } {
  const { design, on } = useDesign();
  const id = design.id;
  const answer = useQuery({
    queryKey: keys.readings(id, design.revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/readings", { params: { path: { id }, query: { on } } })),
    placeholderData: (before) => before,
  });
  return { readings: answer.data, isComing: answer.isPending && answer.failureCount === 0 };
}
