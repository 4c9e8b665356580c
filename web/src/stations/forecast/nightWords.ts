import type { NightBar, NightBundle } from "../../api/types";
import { bytesText, countText, lengthText } from "../../shared/format";

export function bundleWords(bundle: NightBundle): string {
  const late = bundle.late === 0 ? "none late" : `${countText(bundle.late)} late`;
  return `${bundle.name}: ${countText(bundle.bars.length)} transfers, ${late}`;
}

export function barName(bar: NightBar): string {
  return `${bar.workload_name}${bar.machine > 1 ? ` ${bar.machine}` : ""}, ${bar.kind}`;
}

export function barWords(bar: NightBar): string {
  const held = bar.held.map(({ name, seconds }) => `${name} ${lengthText(seconds)}`).join(", ");
  const late = bar.late.length > 0 ? ` Late: ${bar.late.join(", ")}.` : "";
  const early = bar.too_early ? " It starts too early: what it reads has not come." : "";
  if (bar.ended === null) return `${bytesText(bar.moved_bytes)}, never ends.${late}${early}`;
  return `${bytesText(bar.moved_bytes)} in ${lengthText(bar.ended - bar.asked)}${held ? `: ${held}` : ""}.${late}${early}`;
}

/** What a copy came to before a change, beside what it comes to now; empty where nothing of it has changed. */
export function changeWords(
  now: NightBundle,
  before: { late: number; last_end: number | null } | undefined,
): string {
  if (before === undefined) return "";
  const moved = (now.last_end ?? 0) - (before.last_end ?? 0);
  const parts = [];
  if (Math.abs(moved) >= 60)
    parts.push(`ends ${lengthText(Math.abs(moved))} ${moved > 0 ? "later" : "sooner"} than before`);
  if (now.late !== before.late) parts.push(`${countText(now.late)} late, ${countText(before.late)} before`);
  return parts.join("; ");
}
