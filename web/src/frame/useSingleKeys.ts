import { useSyncExternalStore } from "react";

const KEY = "rested-shelf-single-keys";
const CHANGED = "shelf-single-keys";

/** Whether keys without Ctrl do anything on the page; kept in this browser (WCAG 2.2, 2.1.4). */
export function useSingleKeys(): { on: boolean; set: (on: boolean) => void } {
  const on = useSyncExternalStore(listen, () => localStorage.getItem(KEY) !== "off");
  return { on, set };
}

function listen(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  return () => window.removeEventListener(CHANGED, changed);
}

function set(on: boolean): void {
  localStorage.setItem(KEY, on ? "on" : "off");
  window.dispatchEvent(new Event(CHANGED));
}
