import { Box, Dialog, DialogContent, DialogTitle } from "@mui/material";
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Route, Routes, useHref, useLocation, useNavigate } from "react-router";
import { useDesign, useShownFigures } from "../design/context";
import { BringDialog } from "../designs/BringDialog";
import { HistoryDrawer } from "../designs/HistoryDrawer";
import { NewDesign } from "../designs/NewDesign";
import { useDesigns } from "../designs/openDesign";
import { SettingsDialog } from "../designs/SettingsDialog";
import { TokensDialog } from "../designs/TokensDialog";
import { StyleDialog } from "../session/StyleDialog";
import { Notice } from "../shared/Notice";
import { NARROW } from "../theme/theme";
import { ConsequencePanel } from "./ConsequencePanel";
import { type Act, FindDialog } from "./FindDialog";
import { KeysDialog } from "./KeysDialog";
import { NextLine } from "./NextLine";
import type { Opened } from "./opened";
import { isEditing } from "./stations";
import { TimeLine } from "./TimeLine";
import { TopBar } from "./TopBar";
import { useKeptFocus } from "./useKeptFocus";
import { useKeys } from "./useKeys";
import { useTitle } from "./useTitle";
import { WhatItDid } from "./WhatItDid";

const WorkloadsStation = lazy(() =>
  import("../stations/workloads/WorkloadsStation").then((module) => ({ default: module.WorkloadsStation })),
);
const TargetsStation = lazy(() =>
  import("../stations/targets/TargetsStation").then((module) => ({ default: module.TargetsStation })),
);
const RulesStation = lazy(() =>
  import("../stations/rules/RulesStation").then((module) => ({ default: module.RulesStation })),
);
const RoutesStation = lazy(() =>
  import("../stations/routes/RoutesStation").then((module) => ({ default: module.RoutesStation })),
);
const ForecastStation = lazy(() =>
  import("../stations/forecast/ForecastStation").then((module) => ({ default: module.ForecastStation })),
);

const ProofStation = lazy(() =>
  import("../stations/proof/ProofStation").then((module) => ({ default: module.ProofStation })),
);

/** Bar above, station in the middle, consequences at the right, time below. */
export function Frame(person: { username: string; onToggleMode: () => void; onSignOut: () => void }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const { open } = useDesigns();
  const close = () => setOpened(null);
  const actions = useActions(setOpened, person);
  useKeys({ showKeys: () => setOpened("keys"), find: () => setOpened("find") });
  const { pathname } = useLocation();
  const editing = isEditing(pathname);
  const station = useRef<HTMLElement>(null);
  useTitle();
  useKeptFocus(useCallback(() => station.current, []));
  return (
    <Box
      data-frame="page"
      sx={{
        height: "100vh",
        display: "grid",
        gridTemplateRows: "48px minmax(0, 1fr) 74px",
        gridTemplateColumns: "minmax(0, 1fr)",
        [NARROW]: { height: "auto", gridTemplateRows: "auto auto auto" },
      }}
    >
      <TopBar {...person} onOpen={setOpened} />
      <Box
        data-frame="station"
        sx={{
          display: "grid",
          gridTemplateColumns: editing ? "minmax(0, 1fr) 372px" : "minmax(0, 1fr)",
          [NARROW]: { gridTemplateColumns: "minmax(0, 1fr)" },
        }}
      >
        <Box
          component="main"
          data-frame="main"
          ref={station}
          tabIndex={-1}
          sx={{
            // What is there to be heard alone stands where it is said, and widens nothing.
            position: "relative",
            minHeight: 0,
            minWidth: 0,
            overflow: "auto",
            "&:focus-visible": { outline: "none" },
            [NARROW]: { minHeight: 420 },
          }}
        >
          <NextLine />
          <Suspense fallback={<Notice title="Opening…" />}>
            <Routes>
              <Route path="/workloads/:key?" element={<WorkloadsStation />} />
              <Route path="/targets/:key?" element={<TargetsStation />} />
              <Route path="/rules/*" element={<RulesStation />} />
              <Route path="/routes/:key?/:copy?" element={<RoutesStation />} />
              <Route path="/forecast/*" element={<ForecastStation />} />
              <Route path="/proof/*" element={<ProofStation />} />
              <Route path="*" element={<First />} />
            </Routes>
          </Suspense>
        </Box>
        {editing && <ConsequencePanel />}
      </Box>
      <TimeLine />
      <WhatItDid />
      <KeysDialog open={opened === "keys"} onClose={close} />
      {opened === "find" && <FindDialog actions={actions} onClose={close} />}
      {opened === "history" && <HistoryDrawer onClose={close} />}
      {opened === "bring" && <BringDialog onClose={close} onMade={open} />}
      {opened === "tokens" && <TokensDialog onClose={close} />}
      {opened === "settings" && <SettingsDialog onClose={close} />}
      {opened === "style" && <StyleDialog onClose={close} />}
      <Dialog open={opened === "new"} onClose={close} aria-labelledby="new-title">
        <DialogTitle id="new-title">A new design</DialogTitle>
        <DialogContent>
          <NewDesign
            onMade={(id) => {
              close();
              open(id);
            }}
          />
        </DialogContent>
      </Dialog>
    </Box>
  );
}

/** Where a design opens: at what it lacks first, else at its rules. */
function First() {
  const { consequences } = useShownFigures();
  const navigate = useNavigate();
  const here = useHref(useLocation().pathname);
  const first = consequences && `/${consequences.next_step?.station ?? "rules"}`;
  useEffect(() => {
    // Whoever has gone elsewhere meanwhile is on the way there, and stays so.
    const isHere = window.location.pathname.replace(/\/$/, "") === here.replace(/\/$/, "");
    if (first && isHere) navigate(first, { replace: true });
  }, [first, here, navigate]);
  return <Notice title="Opening…" />;
}

/** What can be done from anywhere, by name. */
function useActions(
  setOpened: (what: Opened) => void,
  person: { onToggleMode: () => void; onSignOut: () => void },
): Act[] {
  const { undo, redo, setReference } = useDesign();
  const { onToggleMode, onSignOut } = person;
  return useMemo(
    () => [
      { name: "Undo", act: undo },
      { name: "Do it again", act: redo },
      { name: "Set the reference", act: setReference },
      { name: "History of the design", act: () => setOpened("history") },
      { name: "Settings of the design", act: () => setOpened("settings") },
      { name: "Import a document", act: () => setOpened("bring") },
      { name: "Tokens for scripts and calendars", act: () => setOpened("tokens") },
      { name: "New design", act: () => setOpened("new") },
      { name: "Keys", act: () => setOpened("keys") },
      { name: "Light or dark", act: onToggleMode },
      { name: "Numbers and dates", act: () => setOpened("style") },
      { name: "Sign out", act: onSignOut },
    ],
    [undo, redo, setReference, setOpened, onToggleMode, onSignOut],
  );
}
