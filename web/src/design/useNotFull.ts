import { writtenDate } from "../shared/format";
import { useDesign } from "./context";

/** What is said of a target that has room on every day of the design: a forecast knows nothing of later. */
export function useNotFull(): string {
  return notFullBy(useDesign().days.dates.at(-1) ?? "");
}

/** The same by the last day of a design. */
export function notFullBy(last: string): string {
  return last.endsWith("-12-31")
    ? `not full by the end of ${last.slice(0, 4)}`
    : `not full by ${writtenDate(last)}`;
}
