import { createContext, useContext } from "react";
import type { DesignLine } from "../api/types";

/** All designs of the person, and how another one is opened. */
export interface OpenDesignHands {
  designs: readonly DesignLine[];
  open: (id: number, path?: string) => void;
}

export const OpenDesign = createContext<OpenDesignHands>({ designs: [], open: () => undefined });

export function useDesigns(): OpenDesignHands {
  return useContext(OpenDesign);
}
