import { useCallback, useEffect, useState, useSyncExternalStore } from "react";

export type Mode = "light" | "dark";
const KEY = "rested-shelf-mode";

function startMode(): Mode {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** Light or dark: as chosen here before, else as the system has it. Paper is light. */
export function useMode(): { mode: Mode; toggle: () => void } {
  const [chosen, setChosen] = useState<Mode>(startMode);
  const isPaper = useSyncExternalStore(whenPrinted, () => window.matchMedia("print").matches);
  const mode = isPaper ? "light" : chosen;
  useEffect(() => {
    document.documentElement.style.colorScheme = mode;
  }, [mode]);
  const toggle = useCallback(() => {
    setChosen((before) => {
      const after = before === "light" ? "dark" : "light";
      localStorage.setItem(KEY, after);
      return after;
    });
  }, []);
  return { mode, toggle };
}

function whenPrinted(changed: () => void): () => void {
  const print = window.matchMedia("print");
  print.addEventListener("change", changed);
  return () => print.removeEventListener("change", changed);
}
