import { Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { ComparisonOut, DesignLine } from "../../api/types";
import { useDesign } from "../../design/context";
import { useDesigns } from "../../designs/openDesign";
import { Choice } from "../../shared/Choice";
import { Notice } from "../../shared/Notice";
import { useAddress } from "../../shared/useAddressed";
import { ComparedDuties } from "./ComparedDuties";
import { ComparedTargets } from "./ComparedTargets";

const nameOf = (one: DesignLine) => (one.variant ? `${one.name}, ${one.variant}` : one.name);

/** This design beside another, target by target and duty by duty, at the as-of date: the time line moves both along. */
export function CompareView() {
  const { design, on } = useDesign();
  const { designs } = useDesigns();
  const [search] = useSearchParams();
  const write = useAddress();
  const family = designs.find((one) => one.id === design.id)?.family;
  const others = designs
    .filter((one) => one.id !== design.id)
    .sort((one, other) => Number(other.family === family) - Number(one.family === family));
  const chosen = others.find((one) => String(one.id) === search.get("other")) ?? others[0];
  const found = useQuery({
    queryKey: keys.comparison(design.id, design.revision, chosen?.id ?? 0, on),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/comparison", {
          params: { path: { id: design.id }, query: { other: chosen?.id ?? 0, on } },
        }),
      ) as Promise<ComparisonOut>, // pairs: the schema of an answer calls them lists
    enabled: chosen !== undefined,
    placeholderData: keepPreviousData,
  });
  if (!chosen)
    return (
      <Notice title="There is no other design yet">
        <Typography>
          Branch a variant of this one in its menu, change it, and see here what that does.
        </Typography>
      </Notice>
    );
  return (
    <Stack
      component="section"
      aria-label="Beside another"
      sx={{ height: "100%", overflow: "auto", p: 2, gap: 2 }}
    >
      <Stack direction="row" sx={{ gap: 1, alignItems: "baseline" }}>
        <Typography variant="h2">This design beside</Typography>
        <Choice
          label="The other design"
          value={String(chosen.id)}
          options={Object.fromEntries(others.map((one) => [String(one.id), nameOf(one)]))}
          disabled={false}
          onChange={(other) => write({ other })}
        />
      </Stack>
      {found.error && <Notice title="They cannot be compared" error={found.error} />}
      {!found.data && !found.error && <Notice title="Computing both…" />}
      {found.data && (
        <>
          <Typography role="status">{found.data.sentence}</Typography>
          <ComparedTargets found={found.data} />
          <ComparedDuties found={found.data} />
        </>
      )}
    </Stack>
  );
}
