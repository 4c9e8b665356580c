import type { Ladder } from "../../api/types";
import { StartDialog } from "../../shared/StartDialog";
import { useStartingPoints } from "../../shared/useStartingPoints";

const BLANK: Ladder = {
  id: "ladder",
  name: "New ladder",
  recent: [{ keep: { points: 14 } }],
  rungs: [],
  floor: 1,
};

/** Ladders to start from; all of their values can be edited afterwards. */
export function AddLadder({
  onChoose,
  onClose,
}: {
  onChoose: (ladder: Ladder) => void;
  onClose: () => void;
}) {
  const starts = useStartingPoints()?.ladders ?? [];
  const blank = {
    ladder: BLANK,
    fits: "The newest fourteen points and nothing else: add its rungs yourself.",
  };
  return (
    <StartDialog
      title="Add a ladder"
      starts={[...starts, blank].map(({ ladder, fits }) => ({
        name: ladder.name ?? "",
        fits,
        value: ladder,
      }))}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
