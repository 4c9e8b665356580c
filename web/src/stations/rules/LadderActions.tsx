import { Button, Menu, MenuItem, Stack } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Ladder, Use } from "../../api/types";
import { useDesign, useTargetName } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { freshId } from "../../shared/ids";
import { withCopy } from "../routes/copies";
import { ApplyDialog } from "./ApplyDialog";

/** What can be done with a ladder as a whole: try it on one route, use it on many, remove it. */
export function LadderActions({ ladder, uses }: { ladder: Ladder; uses: readonly Use[] }) {
  const { design, edit } = useDesign();
  const targetName = useTargetName();
  const navigate = useNavigate();
  const { takeOut, dialog } = useTakeOut();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [applying, setApplying] = useState(false);
  const name = ladder.name || ladder.id;
  const tryOn = async (use: Use) => {
    setAnchor(null);
    const route = design.document.routes.find((one) => one.id === use.route_id);
    const copy = route?.copies.find((one) => one.id === use.copy_id);
    if (!route || !copy) return;
    const id = freshId(`${ladder.id}-tried`, design.document.ladders);
    const tried = { ...ladder, id, name: `${name}, tried on ${use.route}` };
    const saved = await edit(
      [
        { part: "ladders", key: id, value: tried },
        { part: "routes", key: route.id, value: withCopy(route, { ...copy, ladder: id }) },
      ],
      `a copy of ${name} to try on ${use.route}`,
    );
    if (saved) navigate(`/rules/ladders/${id}`);
  };
  return (
    <Stack direction="row" sx={{ flexShrink: 0 }}>
      {uses.length > 1 && (
        <Button aria-haspopup="true" onClick={(event) => setAnchor(event.currentTarget)}>
          Try on one route
        </Button>
      )}
      <Button onClick={() => setApplying(true)}>Use on…</Button>
      <Button color="error" onClick={() => takeOut("ladders", ladder.id, name)}>
        Remove
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {uses.map((use) => (
          <MenuItem key={`${use.route_id}/${use.copy_id}`} onClick={() => void tryOn(use)}>
            {use.route} on {targetName(use.target)}
          </MenuItem>
        ))}
      </Menu>
      {applying && <ApplyDialog ladder={ladder} onClose={() => setApplying(false)} />}
      {dialog}
    </Stack>
  );
}
