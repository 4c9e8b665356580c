import { Box, Stack, Typography } from "@mui/material";
import { Link as RouterLink } from "react-router";
import type { Link } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { freshId, idFrom } from "../../shared/ids";
import { FIRST } from "../../shared/words";
import { lineOf } from "./between";

/** A line as one begins: each way its speed, all of it, at any hour. */
const PLAIN = { shared: false, usable_percent: 100, limits: [] };

/** What lies between the shelves: one strand for each line, and a way to add one. */
export function LinkStrip({ chosen, onOpen }: { chosen: string | null; onOpen: (id: string) => void }) {
  const { design, canEdit, save } = useDesign();
  const { sites } = design.document;
  const links = design.document.links ?? [];
  if (sites.length < 2) return null;
  const names = Object.fromEntries(sites.map((site) => [site.id, site.name || site.id]));
  const free = sites.flatMap((one, at) =>
    sites
      .slice(at + 1)
      .map((other) => ({ ends: [one.id, other.id], name: `${names[one.id]} and ${names[other.id]}` })),
  );
  const add = async (place: string) => {
    const pair = free[Number(place)];
    if (!pair) return;
    const id = freshId(idFrom(pair.ends.join("-")), links);
    const link: Link = { id, name: "", sites: pair.ends, speed: FIRST.line_speed, ...PLAIN };
    if (await save("links", id, link, `a line between ${pair.name}`)) onOpen(id);
  };
  return (
    <Stack
      component="nav"
      aria-label="Lines between the sites"
      direction="row"
      sx={{ flexWrap: "wrap", columnGap: 2, rowGap: 0.5, alignItems: "center" }}
    >
      <Typography color="textSecondary">
        {links.length === 0 ? "Nothing limits what goes from site to site." : "Between them:"}
      </Typography>
      {links.map((link) => (
        <Box
          key={link.id}
          component={RouterLink}
          to={lineOf(link.id)}
          aria-current={chosen === link.id ? "page" : undefined}
          sx={{
            display: "flex",
            alignItems: "center",
            gap: 0.75,
            color: "text.primary",
            textDecoration: "none",
          }}
        >
          <span>{names[link.sites[0] ?? ""]}</span>
          <Box
            sx={{
              px: 1,
              lineHeight: 1.5,
              borderTop: 2,
              borderBottom: 2,
              borderColor: chosen === link.id ? "primary.main" : "warning.main",
              bgcolor: chosen === link.id ? "action.selected" : undefined,
              "&:hover": { borderColor: "primary.main" },
            }}
          >
            {link.speed ?? "any speed"}
            {(link.limits ?? []).length > 0 && ", less by the hour"}
          </Box>
          <span>{names[link.sites[1] ?? ""]}</span>
        </Box>
      ))}
      {canEdit && (
        <Choice
          label="Add a line between two sites"
          value=""
          options={{
            "": "Add a line between…",
            ...Object.fromEntries(free.map((pair, at) => [String(at), pair.name])),
          }}
          disabled={false}
          onChange={(place) => void add(place)}
        />
      )}
    </Stack>
  );
}
