/** What can stand open above the stations. */
export type Opened = "keys" | "find" | "history" | "settings" | "new" | "bring" | "tokens" | "style";
