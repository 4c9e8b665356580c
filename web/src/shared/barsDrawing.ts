import type { Inks } from "../theme/palette";
import type { Drawing } from "./savePicture";

/** One bar: what it is about, how long it is, and its figures in words. A sum has no bar. */
export interface RankedRow {
  key: string;
  owner?: string;
  name: string;
  value: number;
  ink: string;
  figures: string[];
  isSum?: boolean;
}

const WIDTH = 1000;
const ROW = 22;
const HEAD = 34;
const BAR = { left: 430, width: 230 };
const FIGURE = 160;

/** Bars as a drawing of their own, for a file. */
export function barsDrawing(label: string, rows: readonly RankedRow[], inks: Inks): Drawing {
  const widest = Math.max(1e-9, ...rows.map((row) => Math.abs(row.value)));
  const height = HEAD + ROW * rows.length + 8;
  const most = Math.max(0, ...rows.map((row) => row.figures.length));
  const width = Math.max(WIDTH, BAR.left + BAR.width + most * FIGURE + 16);
  const text = (x: number, y: number, words: string, end = false) =>
    `<text x="${x}" y="${y}" fill="${inks.ink}"${end ? ' text-anchor="end"' : ""}>${escaped(words)}</text>`;
  const parts = rows.map((row, at) => {
    const y = HEAD + ROW * at;
    const long = (BAR.width * Math.abs(row.value)) / widest;
    const bar = row.isSum
      ? `<line x1="12" x2="${width - 12}" y1="${y - 1}" y2="${y - 1}" stroke="${inks.hairline}"/>`
      : `<rect x="${BAR.left}" y="${y + 4}" width="${Math.max(1, long).toFixed(1)}" height="11" fill="${row.ink}"/>`;
    const figures = row.figures.map((figure, place) =>
      text(BAR.left + BAR.width + (place + 1) * FIGURE, y + 14, figure, true),
    );
    const name = shortened(row.owner ? `${row.owner}: ${row.name}` : row.name);
    return [text(12, y + 14, name), bar, ...figures].join("");
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-size="13" font-family="'Source Sans 3', sans-serif"><rect width="100%" height="100%" fill="${inks.ground}"/>${text(12, 22, label)}${parts.join("")}</svg>`;
  return { text: svg, width, height };
}

function shortened(words: string): string {
  return words.length > 64 ? `${words.slice(0, 63)}…` : words;
}

function escaped(words: string): string {
  return words.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll('"', "&quot;");
}
