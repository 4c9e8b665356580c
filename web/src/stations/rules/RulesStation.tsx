import { Box, Stack } from "@mui/material";
import type { ReactNode } from "react";
import { Navigate, NavLink, Route, Routes } from "react-router";
import { useReadings } from "../../design/useReadings";
import { OnceRead } from "../../shared/OnceRead";
import { CadenceView } from "./CadenceView";
import { HoldsView } from "./HoldsView";
import { LadderView } from "./LadderView";

/** Ladders and cadences, each edited in place. */
export function RulesStation() {
  const answer = useReadings();
  const readings = answer.data;
  const once = (view: ReactNode) => (
    <OnceRead answer={answer} title="Reading the rules…">
      {view}
    </OnceRead>
  );
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
