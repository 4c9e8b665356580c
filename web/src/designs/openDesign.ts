import { createContext, useContext } from "react";
import type { DesignLine } from "../api/types";

/** All designs of the person, and how another one is opened. */
export interface OpenDesigns {
  designs: readonly DesignLine[];
  open: (id: number, path?: string) => void;
}

export const OpenDesign = createContext<OpenDesigns>({ designs: [], open: () => undefined });

export function useDesigns(): OpenDesigns {
  return useContext(OpenDesign);
}
