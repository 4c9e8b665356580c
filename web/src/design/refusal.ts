import { createContext } from "react";

/** Says why the last edit was refused, for the field that it was made in. */
export const RefusalContext = createContext<() => string>(() => "");
