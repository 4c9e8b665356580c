import { useCallback, useEffect, useState } from "react";

export type Mode = "light" | "dark";
const KEY = "rested-shelf-mode";

function startMode(): Mode {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** Light or dark: as chosen here before, else as the system has it. */
export function useMode(): { mode: Mode; toggle: () => void } {
  const [mode, setMode] = useState<Mode>(startMode);
  useEffect(() => {
    document.documentElement.style.colorScheme = mode;
  }, [mode]);
  const toggle = useCallback(() => {
    setMode((before) => {
      const after = before === "light" ? "dark" : "light";
      localStorage.setItem(KEY, after);
      return after;
    });
  }, []);
  return { mode, toggle };
}
