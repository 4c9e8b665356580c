import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { NameDialog } from "../../designs/NameDialog";
import { freshId, idFrom } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { AddTarget } from "./AddTarget";
import { lineOf } from "./between";
import { LinkEditor } from "./LinkEditor";
import { LinkStrip } from "./LinkStrip";
import { SiteEditor } from "./SiteEditor";
import { SiteShelf } from "./SiteShelf";
import { TargetEditor } from "./TargetEditor";

/** The targets on shelves by site, and the chosen one under the hand. */
export function TargetsStation() {
  const { design, canEdit, save } = useDesign();
  const { sites, targets } = design.document;
  const { key } = useParams();
  const navigate = useNavigate();
  const [namingSite, setNamingSite] = useState(false);
  const [addingTo, setAddingTo] = useState<string | null>(null);
  const { takeOut, dialog } = useTakeOut();
  const [asked] = useSearchParams();
  const line = (design.document.links ?? []).find((one) => one.id === asked.get("line"));
  const place = sites.find((one) => one.id === asked.get("site"));
  const chosen = line || place ? undefined : (targets.find((target) => target.id === key) ?? targets[0]);
  const addSite = (name: string) => {
    setNamingSite(false);
    void save(
      "sites",
      freshId(idFrom(name), sites),
      { id: freshId(idFrom(name), sites), name },
      `added the site ${name}`,
    );
  };
  const addTarget = async (start: Target) => {
    const site = addingTo ?? "";
    setAddingTo(null);
    const id = freshId(idFrom(start.name ?? "target"), targets);
    if (await save("targets", id, { ...start, id, site }, `added ${start.name}`)) navigate(`/targets/${id}`);
  };
  return (
    <Stack sx={{ p: 2, gap: 2 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <Typography variant="h2">Targets</Typography>
        <Typography color="textSecondary">Each shelf is a site that can be lost as a whole.</Typography>
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button variant="outlined" onClick={() => setNamingSite(true)}>
            Add a site
          </Button>
        )}
      </Stack>
      {sites.length === 0 && (
        <Notice title="No site yet">
          <Typography>Begin with the places that hold your data and its copies.</Typography>
        </Notice>
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, rowGap: 2 }}>
        {sites.map((site) => (
          <SiteShelf
            key={site.id}
            site={site}
            targets={targets.filter((target) => target.site === site.id)}
            chosen={chosen?.id ?? ""}
            onAdd={() => setAddingTo(site.id)}
            onTakeOut={() => takeOut("sites", site.id, site.name || site.id)}
          />
        ))}
      </Box>
      <LinkStrip chosen={line?.id ?? null} onOpen={(id) => navigate(lineOf(id))} />
      {line && (
        <LinkEditor
          key={line.id}
          link={line}
          onTakeOut={() => takeOut("links", line.id, line.name || "the line")}
        />
      )}
      {place && <SiteEditor key={place.id} site={place} />}
      {chosen && (
        <TargetEditor
          key={chosen.id}
          target={chosen}
          onTakeOut={() => takeOut("targets", chosen.id, chosen.name || chosen.id)}
        />
      )}
      {dialog}
      {namingSite && (
        <NameDialog
          title="Add a site"
          hint="A place that can be lost as a whole: a building, a room with its own fire wall, a cloud region."
          start=""
          onName={addSite}
          onClose={() => setNamingSite(false)}
        />
      )}
      {addingTo !== null && <AddTarget onChoose={addTarget} onClose={() => setAddingTo(null)} />}
    </Stack>
  );
}
