import { Box } from "@mui/material";
import { lazy, Suspense, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Notice } from "../shared/Notice";
import { ConsequencePanel } from "./ConsequencePanel";
import { KeysDialog } from "./KeysDialog";
import { STATIONS } from "./stations";
import { TimeLine } from "./TimeLine";
import { TopBar } from "./TopBar";
import { useKeys } from "./useKeys";

const WorkloadsStation = lazy(() =>
  import("../stations/workloads/WorkloadsStation").then((module) => ({ default: module.WorkloadsStation })),
);
const RulesStation = lazy(() =>
  import("../stations/rules/RulesStation").then((module) => ({ default: module.RulesStation })),
);
const ForecastStation = lazy(() =>
  import("../stations/forecast/ForecastStation").then((module) => ({ default: module.ForecastStation })),
);

/** Bar above, station in the middle, consequences at the right, time below. */
export function Frame(person: { username: string; onToggleMode: () => void; onSignOut: () => void }) {
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys(() => setKeysOpen(true));
  const { pathname } = useLocation();
  const editing = STATIONS.some((station) => station.editing && pathname.startsWith(station.path));
  return (
    <Box sx={{ height: "100vh", display: "grid", gridTemplateRows: "48px minmax(0, 1fr) 74px" }}>
      <TopBar {...person} onKeys={() => setKeysOpen(true)} />
      <Box sx={{ display: "grid", gridTemplateColumns: editing ? "minmax(0, 1fr) 372px" : "minmax(0, 1fr)" }}>
        <Box component="main" sx={{ minHeight: 0, minWidth: 0, overflow: "auto" }}>
          <Suspense fallback={<Notice title="Opening…" />}>
            <Routes>
              <Route path="/workloads" element={<WorkloadsStation />} />
              <Route path="/rules/*" element={<RulesStation />} />
              <Route path="/forecast" element={<ForecastStation />} />
              <Route path="*" element={<Navigate to="/rules" replace />} />
            </Routes>
          </Suspense>
        </Box>
        {editing && <ConsequencePanel />}
      </Box>
      <TimeLine />
      <KeysDialog open={keysOpen} onClose={() => setKeysOpen(false)} />
    </Box>
  );
}
