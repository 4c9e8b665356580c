import { Button, Menu, MenuItem, Stack } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Use } from "../../api/types";
import type { Change } from "../../design/changes";
import { useDesign, useTargetName } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { freshId } from "../../shared/ids";
import { withCopy } from "../routes/copies";
import { ApplyDialog } from "./ApplyDialog";
import { type Rule, withRule } from "./rule";

/** What can be done with a rule as a whole: try it on one route, use it on many, remove it. */
export function RuleActions({ rule, uses }: { rule: Rule; uses: readonly Use[] }) {
  const { design, edit } = useDesign();
  const targetName = useTargetName();
  const navigate = useNavigate();
  const { takeOut, dialog } = useTakeOut();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [applying, setApplying] = useState(false);
  const { part, entry } = rule;
  const name = entry.name || entry.id;
  const tryOn = async (use: Use) => {
    setAnchor(null);
    const route = design.document.routes.find((one) => one.id === use.route_id);
    const copy = route?.copies.find((one) => one.id === use.copy_id);
    if (!route || !copy) return;
    const id = freshId(`${entry.id}-tried`, design.document[part]);
    const tried = {
      part,
      key: id,
      value: { ...entry, id, name: `${name}, tried on ${use.route}` },
    } as Change;
    const value = withCopy(route, withRule(copy, part, id));
    const changes: Change[] = [tried, { part: "routes", key: route.id, value }];
    if (await edit(changes, `a copy of ${name} to try on ${use.route}`)) navigate(`/rules/${part}/${id}`);
  };
  return (
    <Stack direction="row" sx={{ flexShrink: 0 }}>
      {uses.length > 1 && (
        <Button aria-haspopup="true" onClick={(event) => setAnchor(event.currentTarget)}>
          Try on one route
        </Button>
      )}
      <Button onClick={() => setApplying(true)}>Use on…</Button>
      <Button color="error" onClick={() => takeOut(part, entry.id, name)}>
        Remove
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {uses.map((use) => (
          <MenuItem key={`${use.route_id}/${use.copy_id}`} onClick={() => void tryOn(use)}>
            {use.route} on {targetName(use.target)}
          </MenuItem>
        ))}
      </Menu>
      {applying && <ApplyDialog rule={rule} onClose={() => setApplying(false)} />}
      {dialog}
    </Stack>
  );
}
