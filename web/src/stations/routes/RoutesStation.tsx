import { Box, Button, Link, Stack, Typography } from "@mui/material";
import { Link as RouterLink, useNavigate, useParams } from "react-router";
import type { Copy, RoutePart } from "../../api/types";
import { useDesign } from "../../design/context";
import { useRoutes } from "../../design/useRoutes";
import { useTakeOut } from "../../design/useTakeOut";
import { countText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { OnceRead } from "../../shared/OnceRead";
import { Word } from "../../shared/Word";
import { CopyEditor } from "./CopyEditor";
import { Matrix } from "./Matrix";
import { RouteEditor } from "./RouteEditor";

/** Where copies go: a row per route, a column per target, a copy in a cell; the chosen one under the hand. */
export function RoutesStation() {
  const { design, canEdit, command } = useDesign();
  const { routes, targets } = design.document;
  const { key, copy: copyKey } = useParams();
  const navigate = useNavigate();
  const readings = useRoutes();
  const { takeOut, dialog } = useTakeOut();
  const route = routes.find((one) => one.id === key) ?? routes[0];
  const copy = route?.copies.find((one) => one.id === copyKey);
  const first = targets[0];
  const addRoute = async () => {
    if (!first) return;
    const made = await command({ do: "add-route", target: first.id }, "added a route");
    const id = made?.find((one) => one.part === "routes")?.key;
    if (id) navigate(`/routes/${encodeURIComponent(id)}`);
  };
  if (readings.error) return <Notice title="The routes cannot be shown" error={readings.error} />;
  return (
    <Stack sx={{ px: 2, pt: 2, gap: 1.5, height: "100%", minHeight: 0 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <Typography variant="h2">
          <Word term="route">Routes</Word>
        </Typography>
        <Untaken ids={readings.data?.taken_by_none} />
        <Box sx={{ flex: 1 }} />
        {canEdit && first && (
          <Button variant="outlined" onClick={() => void addRoute()}>
            Add a route
          </Button>
        )}
      </Stack>
      {routes.length === 0 ? (
        <NoRoute hasTarget={first !== undefined} />
      ) : (
        <Matrix readings={readings.data} chosenRoute={route?.id ?? ""} chosenCopy={copy?.id ?? ""} />
      )}
      <Box
        tabIndex={-1}
        sx={{
          flex: "1 0 auto",
          maxHeight: "54%",
          // A copy that is still to be read has its room already, so that the rows above it stay where they are.
          minHeight: copy && readings.isPending ? "54%" : undefined,
          overflow: "auto",
          pb: 2,
          pt: 0.5,
        }}
      >
        {route && (
          <UnderTheHand
            route={route}
            copy={copy}
            readings={readings}
            onTakeOut={() => takeOut("routes", route.id, route.name || route.id)}
          />
        )}
      </Box>
      {dialog}
    </Stack>
  );
}

interface UnderTheHandProps {
  route: RoutePart;
  copy: Copy | undefined;
  readings: ReturnType<typeof useRoutes>;
  onTakeOut: () => void;
}

/** The copy that is chosen, or else its route, in sentences. */
function UnderTheHand({ route, copy, readings, onTakeOut }: UnderTheHandProps) {
  const reading = readings.data?.routes[route.id];
  if (!copy)
    return (
      <RouteEditor
        key={route.id}
        route={route}
        reading={reading}
        tags={Object.keys(readings.data?.tags ?? {})}
        onTakeOut={onTakeOut}
      />
    );
  return (
    <OnceRead answer={readings} title="Reading the routes…">
      <CopyEditor
        key={`${route.id}/${copy.id}`}
        route={route}
        copy={copy}
        sentence={reading?.copies[copy.id]}
        workloads={reading?.workloads ?? []}
        beforeStart={readings.data?.before_start ?? ""}
      />
    </OnceRead>
  );
}

function Untaken({ ids = [] }: { ids: readonly string[] | undefined }) {
  const count = ids.length;
  if (count === 0) return null;
  return (
    <Link component={RouterLink} to="/workloads?show=untaken" color="error">
      {count === 1 ? "No route takes one workload" : `No route takes ${countText(count)} workloads`}
    </Link>
  );
}

function NoRoute({ hasTarget }: { hasTarget: boolean }) {
  return (
    <Notice title="No route yet">
      {hasTarget ? (
        <Typography>A route takes workloads and makes copies of them on targets.</Typography>
      ) : (
        <Button component={RouterLink} to="/targets">
          A route needs a target to put its first copy on: begin there
        </Button>
      )}
    </Notice>
  );
}
