import ContrastIcon from "@mui/icons-material/Contrast";
import ExpandMoreIcon from "@mui/icons-material/ExpandMore";
import KeyboardOutlinedIcon from "@mui/icons-material/KeyboardOutlined";
import LogoutIcon from "@mui/icons-material/Logout";
import RedoIcon from "@mui/icons-material/Redo";
import SearchIcon from "@mui/icons-material/Search";
import UndoIcon from "@mui/icons-material/Undo";
import { Box, Button, IconButton, Stack, Tooltip, Typography } from "@mui/material";
import { memo, useState } from "react";
import { NavLink } from "react-router";
import { useDesign } from "../design/context";
import type { SaveState } from "../design/editing";
import { DesignMenu } from "../designs/DesignMenu";
import { useSteady } from "../shared/useSteady";
import { NARROW, SERIF } from "../theme/theme";
import { Mark } from "./Mark";
import type { Opened } from "./opened";
import { STATIONS } from "./stations";

interface Props {
  username: string;
  onToggleMode: () => void;
  onSignOut: () => void;
  onOpen: (what: Opened) => void;
}

/** The slim bar: the design, the stations, how the last edit stands, undo and redo. What of it says the same as before is
 * not drawn anew when the as-of date moves. */
export function TopBar({ username, onToggleMode, onSignOut, onOpen }: Props) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { design, others, saveState, undo, redo, undoWhat, redoWhat, canEdit } = useDesign();
  const find = useSteady(() => onOpen("find"));
  const showKeys = useSteady(() => onOpen("keys"));
  return (
    <Stack
      component="header"
      direction="row"
      spacing={1}
      sx={{
        alignItems: "center",
        minWidth: 0,
        px: 2,
        borderBottom: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        [NARROW]: { flexWrap: "wrap" },
      }}
    >
      <Mark />
      <DesignName
        name={design.document.name}
        variant={design.variant}
        current={design.current}
        onOpen={setMenu}
      />
      <DesignMenu
        anchor={menu}
        onClose={() => setMenu(null)}
        onNew={() => onOpen("new")}
        onSettings={() => onOpen("settings")}
        onHistory={() => onOpen("history")}
        onBring={() => onOpen("bring")}
        onTokens={() => onOpen("tokens")}
        onStyle={() => onOpen("style")}
      />
      <Stations />
      <Box sx={{ flex: 1 }} />
      <SaveWord state={canEdit ? saveState : { state: "idle" }} others={others} />
      <Action label="Find (Ctrl K)" onClick={find} icon={SearchIcon} />
      <Action
        label={undoWhat ? `Undo: ${undoWhat}` : "Nothing to undo"}
        onClick={useSteady(undo)}
        disabled={!undoWhat}
        icon={UndoIcon}
      />
      <Action
        label={redoWhat ? `Redo: ${redoWhat}` : "Nothing to redo"}
        onClick={useSteady(redo)}
        disabled={!redoWhat}
        icon={RedoIcon}
      />
      <Action label="Keys" onClick={showKeys} icon={KeyboardOutlinedIcon} />
      <Action label="Light or dark" onClick={useSteady(onToggleMode)} icon={ContrastIcon} />
      <Action label={`Sign out ${username}`} onClick={useSteady(onSignOut)} icon={LogoutIcon} />
    </Stack>
  );
}

const DesignName = memo(function DesignName(props: {
  name: string;
  variant: string;
  current: boolean;
  onOpen: (anchor: HTMLElement) => void;
}) {
  return (
    <Typography component="h1" sx={{ m: 0, flexShrink: 0 }}>
      <Button
        aria-haspopup="true"
        aria-label={`Design ${props.name}, variant ${props.variant}`}
        onClick={(event) => props.onOpen(event.currentTarget)}
        endIcon={<ExpandMoreIcon />}
        sx={{ color: "text.primary", whiteSpace: "nowrap", gap: 0.5 }}
      >
        <Box component="span" sx={{ fontFamily: SERIF, fontSize: 18, fontWeight: 560 }}>
          {props.name}
        </Box>
        {!props.current && (
          <Box component="span" sx={{ color: "text.secondary" }}>
            {props.variant}
          </Box>
        )}
      </Button>
    </Typography>
  );
});

const Stations = memo(function Stations() {
  return (
    <Stack
      component="nav"
      aria-label="Stations"
      direction="row"
      spacing={0.5}
      sx={{ pl: 1, alignSelf: "stretch", [NARROW]: { flexWrap: "wrap", order: 1, width: "100%" } }}
    >
      {STATIONS.map((station) => (
        <Box
          key={station.path}
          component={NavLink}
          to={station.path}
          aria-keyshortcuts={station.key}
          sx={{
            display: "flex",
            alignItems: "center",
            px: 1.25,
            color: "text.secondary",
            textDecoration: "none",
            borderBottom: "3px solid transparent",
            borderTop: "3px solid transparent",
            "&.active": { color: "text.primary", fontWeight: 600, borderBottomColor: "primary.main" },
            "&:hover": { color: "text.primary" },
          }}
        >
          {station.name}
        </Box>
      ))}
    </Stack>
  );
});

const Action = memo(function Action(props: {
  label: string;
  onClick: () => void;
  icon: typeof SearchIcon;
  disabled?: boolean;
}) {
  const Icon = props.icon;
  return (
    <Tooltip title={props.label}>
      <span>
        <IconButton
          size="small"
          aria-label={props.label}
          onClick={props.onClick}
          disabled={props.disabled ?? false}
        >
          <Icon fontSize="small" />
        </IconButton>
      </span>
    </Tooltip>
  );
});

function SaveWord({ state, others }: { state: SaveState; others: string }) {
  const words = {
    idle: others,
    saving: "Saving…",
    saved: state.state === "saved" ? state.what : "",
    waiting: state.state === "waiting" ? `Not saved yet, kept here: ${state.why}` : "",
    failed: state.state === "failed" ? `Not saved: ${state.why}` : "",
  }[state.state];
  return (
    <Typography
      role="status"
      aria-label="Last edit"
      variant="body2"
      noWrap
      title={words}
      sx={{
        minWidth: 0,
        flex: "0 1 auto",
        color: ["failed", "waiting"].includes(state.state) ? "error.main" : "text.secondary",
      }}
    >
      {words}
    </Typography>
  );
}
