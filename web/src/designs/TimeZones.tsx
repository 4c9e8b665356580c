import { useMemo } from "react";

export const ZONES_ID = "time-zones";

/** The names of time zones that the browser knows, to complete what is typed. The server says which it takes. */
export function TimeZones() {
  const zones = useMemo(() => ["UTC", ...Intl.supportedValuesOf("timeZone")], []);
  return (
    <datalist id={ZONES_ID}>
      {zones.map((zone) => (
        <option key={zone} value={zone} />
      ))}
    </datalist>
  );
}
