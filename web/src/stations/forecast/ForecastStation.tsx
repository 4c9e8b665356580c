import { Box, Stack } from "@mui/material";
import { Route, Routes } from "react-router";
import { useDesign } from "../../design/context";
import { FORECAST_VIEWS } from "../../frame/stations";
import { Notice } from "../../shared/Notice";
import { ViewNames } from "../../shared/ViewNames";
import { CompareView } from "./CompareView";
import { CostView } from "./CostView";
import { DownloadDialog } from "./DownloadDialog";
import { NightsView } from "./NightsView";
import { OneTarget } from "./OneTarget";
import { OverviewView } from "./OverviewView";
import { PointsView } from "./PointsView";
import { UnknownView } from "./UnknownView";

/** What every target will hold, when it is full, why, and what it costs. */
export function ForecastStation() {
  const { design } = useDesign();
  if (design.document.targets.length === 0)
    return <Notice title="No target yet">A design needs a target to forecast.</Notice>;
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Stack direction="row" sx={{ px: 2, pt: 1, gap: 3, alignItems: "center" }}>
        <ViewNames label="Views of the forecast" views={FORECAST_VIEWS} />
        <Box sx={{ flex: 1 }} />
        <DownloadDialog />
      </Stack>
      <Box sx={{ flex: 1, minHeight: 0 }}>
        <Routes>
          <Route path="/" element={<OverviewView />} />
          <Route path="/target/:key?" element={<OneTarget />} />
          <Route path="/points" element={<PointsView />} />
          <Route path="/cost" element={<CostView />} />
          <Route path="/nights" element={<NightsView />} />
          <Route path="/unknown" element={<UnknownView />} />
          <Route path="/beside" element={<CompareView />} />
        </Routes>
      </Box>
    </Stack>
  );
}
