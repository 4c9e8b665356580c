import type { Target } from "../../api/types";
import { StartDialog } from "../../shared/StartDialog";
import { useStartingPoints } from "../../shared/useStartingPoints";

/** Targets to start from; all of their values can be edited afterwards. */
export function AddTarget({
  onChoose,
  onClose,
}: {
  onChoose: (target: Target) => void;
  onClose: () => void;
}) {
  const starts = useStartingPoints()?.targets ?? [];
  return (
    <StartDialog
      title="Add a target"
      hint="Points to start from. Sizes and prices are invented; every value can be edited."
      starts={starts.map(({ target, fits }) => ({ name: target.name ?? "", fits, value: target }))}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
