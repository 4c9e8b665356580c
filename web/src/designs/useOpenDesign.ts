import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { DesignLine } from "../api/types";

const KEY = "rested-shelf-design";

/** The design that the address names; else the one that was open last, else the first that is current. Null for none. */
export function useOpenDesign() {
  const [path, setPath] = useState(window.location.pathname);
  const { data: designs, error } = useQuery({
    queryKey: keys.designs,
    queryFn: () => unwrap(client.GET("/api/designs")),
  });
  useEffect(() => {
    const follow = () => setPath(window.location.pathname);
    window.addEventListener("popstate", follow);
    return () => window.removeEventListener("popstate", follow);
  }, []);
  const open = useCallback((id: number, within = "") => {
    window.history.pushState(null, "", `/designs/${id}${within}`);
    localStorage.setItem(KEY, String(id));
    setPath(window.location.pathname);
  }, []);
  const named = idIn(path);
  const id = named ?? (designs ? firstOf(designs) : null);
  useEffect(() => {
    if (id === null) return;
    localStorage.setItem(KEY, String(id));
    if (named !== null) return;
    window.history.replaceState(
      null,
      "",
      `/designs/${id}${path === "/" ? "" : path}${window.location.search}`,
    );
    setPath(window.location.pathname);
  }, [id, named, path]);
  const isTheirs = designs === undefined || designs.some((one) => one.id === id);
  // The router of a design reads the address when it is made: it waits until the address names the design.
  return {
    designs: named === null && id !== null ? undefined : designs,
    error,
    id: isTheirs ? id : null,
    open,
  };
}

function idIn(path: string): number | null {
  const match = /^\/designs\/(\d+)(?:\/|$)/.exec(path);
  return match ? Number(match[1]) : null;
}

function firstOf(designs: readonly DesignLine[]): number | null {
  const kept = Number(localStorage.getItem(KEY));
  const found =
    designs.find((one) => one.id === kept) ?? designs.find((one) => one.current) ?? designs[0] ?? null;
  return found?.id ?? null;
}
