import AddIcon from "@mui/icons-material/Add";
import CloseIcon from "@mui/icons-material/Close";
import SpeedIcon from "@mui/icons-material/SwapHoriz";
import { Box, IconButton, Stack, Tooltip } from "@mui/material";
import { Link as RouterLink } from "react-router";
import type { Site, Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { TextWord } from "../../shared/TextWord";
import { siteOf } from "./between";
import { TargetBox } from "./TargetBox";

interface Props {
  site: Site;
  targets: readonly Target[];
  chosen: string;
  onAdd: () => void;
  onTakeOut: () => void;
}

/** A site as a board with its targets standing on it. */
export function SiteShelf({ site, targets, chosen, onAdd, onTakeOut }: Props) {
  const { canEdit, save } = useDesign();
  const name = site.name || site.id;
  return (
    <Box component="section" aria-label={`Site ${name}`}>
      <Stack direction="row" sx={{ alignItems: "flex-end", gap: 1, minHeight: 112, minWidth: 150 }}>
        {targets.map((target) => (
          <TargetBox key={target.id} target={target} chosen={target.id === chosen} />
        ))}
        {canEdit && (
          <Tooltip title={`Add a target at ${name}`}>
            <IconButton
              aria-label={`Add a target at ${name}`}
              onClick={onAdd}
              sx={{ border: "1px dashed", borderColor: "divider", borderRadius: 1, height: 54, width: 34 }}
            >
              <AddIcon fontSize="small" />
            </IconButton>
          </Tooltip>
        )}
      </Stack>
      <Box sx={{ height: 4, bgcolor: "warning.main" }} />
      <Stack direction="row" sx={{ alignItems: "center", color: "text.secondary" }}>
        <TextWord
          label={`Name of the site ${name}`}
          value={site.name ?? ""}
          disabled={!canEdit}
          quiet
          width={150}
          onKeep={(text) => save("sites", site.id, { ...site, name: text }, `site renamed to ${text}`)}
        />
        <Tooltip title={`What ${name} carries`}>
          <IconButton
            size="small"
            aria-label={`What ${name} carries`}
            component={RouterLink}
            to={siteOf(site.id)}
          >
            <SpeedIcon fontSize="small" />
          </IconButton>
        </Tooltip>
        {canEdit && (
          <IconButton size="small" aria-label={`Remove the site ${name}`} onClick={onTakeOut}>
            <CloseIcon fontSize="small" />
          </IconButton>
        )}
      </Stack>
    </Box>
  );
}
