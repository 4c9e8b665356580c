import CloseIcon from "@mui/icons-material/Close";
import { IconButton } from "@mui/material";

/** Takes one part of a sentence away. */
export function RemoveButton({ label, onRemove }: { label: string; onRemove: () => void }) {
  return (
    <IconButton size="small" aria-label={label} onClick={onRemove}>
      <CloseIcon fontSize="small" />
    </IconButton>
  );
}
