import { Box, Stack } from "@mui/material";
import { Route, Routes } from "react-router";
import { PROOF_VIEWS } from "../../frame/stations";
import { ViewNames } from "../../shared/ViewNames";
import { DutiesView } from "./DutiesView";
import { FindingsView } from "./FindingsView";
import { LossesView } from "./LossesView";
import { PlansView } from "./PlansView";

/** What the design must stand: whether every duty holds, what is left after a loss, and how all is brought back. */
export function ProofStation() {
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Box sx={{ px: 2, pt: 1 }}>
        <ViewNames label="Views of the proof" views={PROOF_VIEWS} />
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, overflow: "auto", px: 2, pt: 1, pb: 3 }}>
        <Routes>
          <Route path="/" element={<DutiesView />} />
          <Route path="/losses/:key?" element={<LossesView />} />
          <Route path="/plans/:key?" element={<PlansView />} />
          <Route path="/findings" element={<FindingsView />} />
        </Routes>
      </Box>
    </Stack>
  );
}
