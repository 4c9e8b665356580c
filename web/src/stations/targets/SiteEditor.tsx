import { Stack, Typography } from "@mui/material";
import type { Site } from "../../api/types";
import { useDesign } from "../../design/context";
import { Line } from "../../shared/Line";
import { SpeedWord } from "../../shared/SpeedWord";

/** What the storage of the workloads at a site gives and takes, and what all that passes the site goes through. */
export function SiteEditor({ site }: { site: Site }) {
  const { canEdit, save } = useDesign();
  const name = site.name || site.id;
  const word = (field: "read_speed" | "write_speed" | "network", label: string) => (
    <SpeedWord
      label={label}
      value={site[field]}
      disabled={!canEdit}
      onKeep={(found) =>
        save(
          "sites",
          site.id,
          { ...site, [field]: found },
          `${name}: ${label.toLowerCase()} ${found ?? "not limited"}`,
        )
      }
    />
  );
  return (
    <Stack
      component="section"
      aria-label={`What ${name} carries`}
      sx={{ gap: 1, borderTop: 1, borderColor: "divider", pt: 1.5 }}
    >
      <Typography variant="h3" sx={{ fontSize: 21 }}>
        {name}
      </Typography>
      <Line label="Storage of the workloads">
        The storage of all workloads here gives
        {word("read_speed", "Reading speed of the site")}
        and takes
        {word("write_speed", "Writing speed of the site")}
        together.
      </Line>
      <Line label="Network of the site">
        All that begins, ends or stays here passes
        {word("network", "Speed of the site's network")}.
      </Line>
    </Stack>
  );
}
