import { FindingNotes } from "../shared/FindingNotes";
import { useDesign, useTargetName } from "./context";
import { useFindings } from "./useFindings";

/** What is not as it should be about a target, or about a copy on it that names it. */
export function TargetFindings({ target }: { target: string }) {
  const { design } = useDesign();
  const name = useTargetName()(target);
  const copies = new Set(
    design.document.routes.flatMap((route) =>
      route.copies
        .filter((copy) =>
          [copy.target, ...(copy.step_downs ?? []).map((step) => step.target)].includes(target),
        )
        .map((copy) => `${route.id}/${copy.id}`),
    ),
  );
  const found = useFindings().filter(
    (one) =>
      one.target === target ||
      (one.route && one.copy && copies.has(`${one.route}/${one.copy}`) && one.sentence.includes(name)),
  );
  return <FindingNotes findings={found} />;
}
