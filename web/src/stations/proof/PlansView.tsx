import { Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { RecoveryPlan } from "../../api/types";
import { useDesign } from "../../design/context";
import { isUnderWay } from "../../design/editing";
import { Anew } from "../../shared/Anew";
import { writtenDate } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { FIRST } from "../../shared/words";
import { EntriesHead } from "./EntriesHead";
import { PlanBars } from "./PlanBars";
import { NEW_GROUP, PlanEditor } from "./PlanEditor";
import { Rehearsals } from "./Rehearsals";

/** Recovery plans in sentences, and what each comes to when it is called for at the end of the as-of date. */
export function PlansView() {
  const { design, save } = useDesign();
  const plans = design.document.recovery_plans ?? [];
  const { key } = useParams();
  const navigate = useNavigate();
  const chosen = plans.find((one) => one.id === key) ?? plans[0];
  const add = async () => {
    const id = freshId("plan", plans);
    const start: RecoveryPlan = {
      id,
      name: "A plan",
      place: null,
      ready: FIRST.plan_ready,
      groups: [NEW_GROUP],
      in_place: false,
    };
    if (await save("recovery_plans", id, start, "a plan of recovery")) navigate(`/proof/plans/${id}`);
  };
  return (
    <Stack sx={{ gap: 1.5 }}>
      <EntriesHead
        title="Plans of recovery"
        term="recovery plan"
        path="/proof/plans"
        entries={plans}
        chosen={chosen?.id}
        addLabel="Add a plan"
        onAdd={() => void add()}
      />
      {chosen ? (
        <OnePlan key={chosen.id} plan={chosen} />
      ) : (
        <Notice title="No plan yet">
          <Typography>
            A plan says what is restored where, in which order, and how long checking takes.
          </Typography>
        </Notice>
      )}
    </Stack>
  );
}

function OnePlan({ plan }: { plan: RecoveryPlan }) {
  const { design, on, saveState } = useDesign();
  const answer = useQuery({
    queryKey: keys.restore(design.id, design.revision, plan.id, on),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/restore", {
          params: { path: { id: design.id }, query: { plan: plan.id, at: on } },
        }),
      ),
    enabled: !isUnderWay(saveState),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    placeholderData: keepPreviousData,
  });
  return (
    <Stack sx={{ gap: 1 }}>
      <PlanEditor plan={plan} />
      {answer.error && (
        <Notice title={`What it comes to on ${writtenDate(on)} is not known yet`} error={answer.error}>
          Follow all nights first, in Forecast: then each day is answered at once.
        </Notice>
      )}
      {!answer.data && !answer.error && <Notice title="Carrying it out…" />}
      {answer.data && (
        <Anew waits={answer.isPlaceholderData}>
          <Typography color="textSecondary">
            Called for at the end of {writtenDate(on)}, with nothing lost but what it restores.
          </Typography>
          <PlanBars plan={answer.data.plan} />
        </Anew>
      )}
      <Rehearsals plan={plan.id} />
    </Stack>
  );
}
