import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Typography,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { client, ProblemError, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Copy, Effect, RoutePart } from "../../api/types";
import { type Change, toSend } from "../../design/changes";
import { useDesign, useTargetName } from "../../design/context";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { type Rule, ruleOf, withRule } from "./rule";

/** Puts a rule to use on several copies at once, after showing what becomes of each. */
export function ApplyDialog({ rule, onClose }: { rule: Rule; onClose: () => void }) {
  const { design, edit, on } = useDesign();
  const { part, entry } = rule;
  const { routes } = design.document;
  const using = routes.flatMap((route) =>
    route.copies.filter((copy) => ruleOf(copy, part) === entry.id).map((copy) => `${route.id}/${copy.id}`),
  );
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(using));
  const changes = useMemo(() => changesFor(routes, rule, chosen), [routes, rule, chosen]);
  const id = design.id;
  const effects = useQuery({
    queryKey: keys.effects(id, design.revision, on, part, entry.id, [...chosen].sort()),
    queryFn: () =>
      unwrap(
        client.POST("/api/designs/{id}/effects", {
          params: { path: { id } },
          body: { on, changes: changes.map((change) => toSend(change, null)) },
        }),
      ),
    enabled: changes.length > 0,
  });
  const name = entry.name || entry.id;
  const apply = async () => {
    const added = chosen.size - using.length;
    if (await edit(changes, `${name} is used on ${added} more ${added === 1 ? "copy" : "copies"}`)) onClose();
  };
  const turn = (key: string, isOn: boolean) => {
    const after = new Set(chosen);
    if (isOn) after.add(key);
    else after.delete(key);
    setChosen(after);
  };
  const ruleName = (copy: Copy) => {
    const id = ruleOf(copy, part);
    return design.document[part].find((one) => one.id === id)?.name || id;
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="apply-title" fullWidth maxWidth="md">
      <DialogTitle id="apply-title">Use {name} on</DialogTitle>
      <DialogContent>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 3 }}>
          {routes.flatMap((route) =>
            route.copies
              .filter((copy) => ruleOf(copy, part) !== null)
              .map((copy) => {
                const key = `${route.id}/${copy.id}`;
                return (
                  <FormControlLabel
                    key={key}
                    control={
                      <Checkbox
                        size="small"
                        sx={{ py: 0.25 }}
                        checked={chosen.has(key)}
                        disabled={using.includes(key)}
                        onChange={(_, isOn) => turn(key, isOn)}
                      />
                    }
                    label={`${route.name || route.id}: ${copy.name || copy.id} (now ${ruleName(copy)})`}
                  />
                );
              }),
          )}
        </Box>
        <Typography variant="h3" sx={{ mt: 2 }}>
          What changes, at the end of {writtenDate(on)}
        </Typography>
        {changes.length === 0 && (
          <Typography color="textSecondary">Nothing yet: choose copies above.</Typography>
        )}
        {effects.error && (
          <Typography role="alert" color="error">
            {effects.error instanceof ProblemError ? effects.error.words : "This cannot be computed"}
          </Typography>
        )}
        {changes.length > 0 && effects.data && <EffectTable effects={effects.data.effects} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={!effects.data || changes.length === 0}
          onClick={() => void apply()}
        >
          Use it there
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function changesFor(
  routes: readonly RoutePart[],
  { part, entry }: Rule,
  chosen: ReadonlySet<string>,
): Change[] {
  return routes.flatMap((route): Change[] => {
    const copies = route.copies.map((copy) =>
      chosen.has(`${route.id}/${copy.id}`) && ruleOf(copy, part) !== entry.id
        ? withRule(copy, part, entry.id)
        : copy,
    );
    const isChanged = copies.some((copy, at) => copy !== route.copies[at]);
    return isChanged ? [{ part: "routes", key: route.id, value: { ...route, copies } }] : [];
  });
}

function EffectTable({ effects }: { effects: readonly Effect[] }) {
  const { design } = useDesign();
  const targetName = useTargetName();
  const routeName = (id: string) => design.document.routes.find((one) => one.id === id)?.name || id;
  if (effects.length === 0) return <Typography>Nothing changes on that day, nor at any peak.</Typography>;
  return (
    <Box
      component="table"
      data-testid="effects"
      sx={{
        borderCollapse: "collapse",
        mt: 1,
        "& th, & td": { px: 1, py: 0.25, textAlign: "right" },
        "& th:first-of-type, & td:first-of-type": { textAlign: "left", pl: 0 },
      }}
    >
      <thead>
        <tr>
          <th scope="col">Copy</th>
          <th scope="col">points</th>
          <th scope="col">then</th>
          <th scope="col">stored</th>
          <th scope="col">then</th>
          <th scope="col">its peak</th>
          <th scope="col">then</th>
        </tr>
      </thead>
      <tbody>
        {effects.map((one) => (
          <tr key={`${one.route}/${one.copy}/${one.target}`}>
            <td>
              {routeName(one.route)}: {one.copy} on {targetName(one.target)}
            </td>
            <td>{countText(one.points_before)}</td>
            <td>{countText(one.points_after)}</td>
            <td>{bytesText(one.stored_before)}</td>
            <td>{bytesText(one.stored_after)}</td>
            <td>{bytesText(one.peak_before)}</td>
            <td>{bytesText(one.peak_after)}</td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
