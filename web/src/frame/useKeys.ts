import { useHotkeys } from "react-hotkeys-hook";
import { useNavigate } from "react-router";
import { useDesign } from "../design/context";
import { monthsAway } from "../design/useAsOf";
import { STATIONS } from "./stations";
import { useSingleKeys } from "./useSingleKeys";

/** The keys that work everywhere outside of a field that is being typed in. */
export const KEYS: [string, string][] = [
  ...STATIONS.map((station): [string, string] => [station.key, `go to ${station.name}`]),
  ["[  ]", "the as-of date a month back, a month forth"],
  ["{  }", "a year back, a year forth"],
  ["b", "measure changes from the design as it is now"],
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "do it again"],
  ["Ctrl K", "find an object or an action"],
  ["?", "these keys"],
];

export function useKeys({ showKeys, find }: { showKeys: () => void; find: () => void }): void {
  const edited = useDesign();
  const navigate = useNavigate();
  const move = (months: number) => edited.setPlace(monthsAway(edited.days, edited.place, months));
  const single = useSingleKeys().on;
  // A dialog is a room of its own: keys of the page do nothing while one is open.
  const inRoom = () => document.querySelector('[role="dialog"], [role="menu"], [role="listbox"]') !== null;
  const quiet = { enabled: single, ignoreEventWhen: inRoom } as const;
  const byKey = { ...quiet, useKey: true, preventDefault: true } as const;
  const stationKeys = STATIONS.map((station) => station.key);
  useHotkeys(
    stationKeys,
    (event) => {
      const station = STATIONS.find((one) => one.key === event.key);
      if (station) navigate(station.path);
    },
    quiet,
  );
  useHotkeys("[", () => move(-1), byKey);
  useHotkeys("]", () => move(1), byKey);
  useHotkeys("{", () => move(-12), byKey);
  useHotkeys("}", () => move(12), byKey);
  useHotkeys("b", () => edited.setReference(), quiet);
  // In a field Ctrl Z is the field's own.
  useHotkeys("mod+z", () => edited.undo(), { preventDefault: true, ignoreEventWhen: inRoom });
  useHotkeys("mod+shift+z", () => edited.redo(), { preventDefault: true, ignoreEventWhen: inRoom });
  useHotkeys("mod+k", find, { preventDefault: true, enableOnFormTags: true });
  useHotkeys("?", showKeys, byKey);
}
