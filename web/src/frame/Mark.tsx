import { useTheme } from "@mui/material";

/** The mark: four spines on a shelf, shorter the younger. */
export function Mark({ size = 26 }: { size?: number }) {
  const { inks } = useTheme();
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <rect x="2" y="27" width="28" height="2" fill={inks.brass} />
      <rect x="5" y="6" width="5" height="21" fill={inks.ramp[6]} />
      <rect x="12" y="12" width="4" height="15" fill={inks.ramp[4]} />
      <rect x="18" y="16" width="4" height="11" fill={inks.ramp[3]} />
      <rect x="24" y="20" width="3" height="7" fill={inks.ramp[2]} />
    </svg>
  );
}
