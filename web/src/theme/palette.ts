import { VOCABULARY } from "../api/generated/vocabulary";

/** Colours by what they mean. Every pair that carries text keeps 4.5:1 (WCAG 2.2 AA). */
export interface Inks {
  ground: string;
  surface: string;
  ink: string;
  muted: string;
  hairline: string;
  plum: string;
  brass: string;
  slate: string;
  brick: string;
  moss: string;
  onPlum: string;
  /** Spines and bars by height: unclaimed, recent, day, week, month, quarter, year. */
  ramp: readonly string[];
  /** Parts of a whole that mean nothing by their colour: told apart by hue and by how dark they are. */
  parts: readonly string[];
}

export const paper: Inks = {
  ground: "#F7F4EE",
  surface: "#FFFFFF",
  ink: "#22202A",
  muted: "#6B6672",
  hairline: "#E2DCD0",
  plum: "#5A3E63",
  brass: "#A8772B",
  slate: "#6F7F8C",
  brick: "#B3422E",
  moss: "#4F7358",
  onPlum: "#FFFFFF",
  ramp: ["#6F7F8C", "#CDBBD3", "#B79FBE", "#A083AA", "#886793", "#704F7B", "#4B3153"],
  parts: VOCABULARY.part_inks,
};

export const night: Inks = {
  ground: "#1B191F",
  surface: "#242129",
  ink: "#EDE8E1",
  muted: "#A9A2AF",
  hairline: "#3A3540",
  plum: "#C9A6D4",
  brass: "#D5A75C",
  slate: "#93A3B0",
  brick: "#E58A77",
  moss: "#8FBB98",
  onPlum: "#241A28",
  ramp: ["#93A3B0", "#5F4B67", "#77607F", "#907799", "#AB90B4", "#C6ACCE", "#E4D0EA"],
  parts: [
    "#C6ACCE",
    "#8F7C58",
    "#7FA3C4",
    "#77607F",
    "#6FA39F",
    "#C98F86",
    "#A9A49A",
    "#4F6678",
    "#D9A97E",
    "#7E8F58",
    "#F0E6EC",
    "#8A5F84",
  ],
};
