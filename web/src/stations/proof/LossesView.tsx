import { Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { LossCase } from "../../api/types";
import { useDesign } from "../../design/context";
import { isUnderWay } from "../../design/editing";
import { Anew } from "../../shared/Anew";
import { writtenDate } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { CaseEditor } from "./CaseEditor";
import { CaseMonths } from "./CaseMonths";
import { CasePlaces } from "./CasePlaces";
import { EntriesHead } from "./EntriesHead";
import { LeftTable } from "./LeftTable";
import { PlanBars } from "./PlanBars";

/** A loss that comes at the end of the as-of date: what is left, how old it is, and how all is brought back. */
export function LossesView() {
  const { design, save } = useDesign();
  const cases = design.document.loss_cases ?? [];
  const { key } = useParams();
  const navigate = useNavigate();
  const chosen = cases.find((one) => one.id === key) ?? cases[0];
  const add = async () => {
    const id = freshId("loss", cases);
    const plan = design.document.recovery_plans?.[0]?.id ?? null;
    const start: LossCase = {
      id,
      name: "A loss",
      lost: { sites: [], targets: [], source: true },
      intruder: null,
      unnoticed: null,
      plan,
    };
    if (await save("loss_cases", id, start, "a case of loss")) navigate(`/proof/losses/${id}`);
  };
  return (
    <Stack sx={{ gap: 1.5 }}>
      <EntriesHead
        title="Losses"
        term="loss case"
        path="/proof/losses"
        entries={cases}
        chosen={chosen?.id}
        addLabel="Add a loss"
        onAdd={() => void add()}
      />
      {chosen ? (
        <OneCase key={chosen.id} chosen={chosen} />
      ) : (
        <Notice title="No loss yet">
          <Typography>
            A loss says what is gone at once: a site, a target, what an intruder deletes, weeks that nobody
            noticed.
          </Typography>
        </Notice>
      )}
    </Stack>
  );
}

function OneCase({ chosen }: { chosen: LossCase }) {
  const { design, on, saveState } = useDesign();
  const answer = useQuery({
    queryKey: keys.losses(design.id, design.revision, chosen.id, on),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/losses", {
          params: { path: { id: design.id }, query: { case: chosen.id, at: on } },
        }),
      ),
    enabled: !isUnderWay(saveState),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const found = answer.data?.case;
  return (
    <Stack sx={{ gap: 1.5 }}>
      <CaseEditor chosen={chosen} />
      <CasePlaces chosen={chosen} found={found} />
      {answer.error && (
        <Notice title={`What is left on ${writtenDate(on)} is not known yet`} error={answer.error}>
          Follow all nights first, in Forecast: then each day is answered at once.
        </Notice>
      )}
      {!found && !answer.error && <Notice title="Looking what is left…" />}
      {found && (
        <Anew waits={answer.isPlaceholderData}>
          <Typography variant="h3" sx={{ fontSize: 19 }}>
            At the end of {writtenDate(on)}
          </Typography>
          <LeftTable found={found} />
          {found.plan && <PlanBars plan={found.plan} />}
        </Anew>
      )}
      <CaseMonths chosen={chosen.id} />
    </Stack>
  );
}
