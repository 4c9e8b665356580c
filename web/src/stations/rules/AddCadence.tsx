import type { Cadence } from "../../api/types";
import { StartDialog } from "../../shared/StartDialog";
import { useStartingPoints } from "../../shared/useStartingPoints";

interface Props {
  onChoose: (cadence: Cadence) => void;
  onClose: () => void;
}

/** Cadences to start from; all of their values can be edited afterwards. */
export function AddCadence({ onChoose, onClose }: Props) {
  const starts = useStartingPoints()?.cadences ?? [];
  return (
    <StartDialog
      title="Add a cadence"
      starts={starts.map(({ cadence, fits }) => ({ name: cadence.name ?? "", fits, value: cadence }))}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
