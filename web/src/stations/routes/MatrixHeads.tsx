import { Box, Typography } from "@mui/material";
import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { MEDIA } from "../targets/words";

const CORNER = { px: 1.25, pt: 0.5, fontSize: 13, color: "text.secondary" };

/** The targets in the order of their sites, so that those of one site stand together. */
export function useColumns(): Target[] {
  const { design } = useDesign();
  const { sites, targets } = design.document;
  return sites.flatMap((site) => targets.filter((target) => target.site === site.id));
}

export function Heads({ targets, columns }: { targets: readonly Target[]; columns: string }) {
  const { design } = useDesign();
  const { sites } = design.document;
  const groups = sites
    .map((site) => ({ site, count: targets.filter((target) => target.site === site.id).length }))
    .filter((group) => group.count > 0);
  return (
    <Box role="rowgroup" sx={{ position: "sticky", top: 0, zIndex: 1, bgcolor: "background.paper" }}>
      <Box role="row" sx={{ display: "grid", gridTemplateColumns: columns }}>
        <Box role="columnheader" sx={CORNER}>
          site
        </Box>
        {groups.map(({ site, count }) => (
          <Typography
            key={site.id}
            role="columnheader"
            variant="body2"
            noWrap
            sx={{
              gridColumn: `span ${count}`,
              px: 0.75,
              pt: 0.5,
              mx: 0.25,
              color: "text.secondary",
              borderBottom: 2,
              borderColor: "warning.main",
            }}
          >
            {site.name || site.id}
          </Typography>
        ))}
      </Box>
      <Box role="row" sx={{ display: "grid", gridTemplateColumns: columns }}>
        <Box role="columnheader" sx={CORNER}>
          route
        </Box>
        {targets.map((target) => (
          <Box key={target.id} role="columnheader" sx={{ px: 0.75, py: 0.5, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 600, lineHeight: 1.15, fontSize: 13.5 }}>
              {target.name || target.id}
            </Typography>
            <Typography
              noWrap
              variant="body2"
              color="textSecondary"
              sx={{ lineHeight: 1.15, fontSize: 12.5 }}
            >
              {MEDIA[target.media]}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
