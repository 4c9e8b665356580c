import { useEffect } from "react";
import { useLocation } from "react-router";
import { useDesign } from "../design/context";
import { STATIONS } from "./stations";

/** The title of the page names what is looked at: the view, its station, and the design. */
export function useTitle() {
  const { design } = useDesign();
  const { pathname } = useLocation();
  const words = titleOf(pathname, design.document.name);
  useEffect(() => {
    document.title = words;
  }, [words]);
}

export function titleOf(pathname: string, name: string): string {
  const station = STATIONS.find((one) => pathname.startsWith(one.path));
  if (!station) return `${name} - Rested Shelf`;
  const view = [...station.views].reverse().find((one) => pathname.startsWith(one.path));
  const place = view && view.name !== station.name ? `${view.name}, ${station.name}` : station.name;
  return `${place} - ${name} - Rested Shelf`;
}
