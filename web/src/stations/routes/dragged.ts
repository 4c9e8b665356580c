/** What is dragged: a copy to another target, or the end of a step-down. */
export type Dragged = { kind: "copy" | "step"; route: string; copy: string };

export const DRAG_TYPE = "application/x-rested-shelf-copy";
