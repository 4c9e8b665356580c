import { type Drawing, standingAlone } from "../../shared/savePicture";

const LEFT = 16;
const TEXT = 360;
const ROW = 84;
const LINE = 18;

/** All rows of the overview under each other as one drawing: their words, their charts, their shelves. */
export function overviewDrawing(list: HTMLElement | null): Drawing | null {
  if (!list) return null;
  const ink = getComputedStyle(list).color;
  const rows = [...list.querySelectorAll<HTMLElement>("[data-target]")];
  const charts = rows.map((row) => [...row.querySelectorAll("svg")]);
  const width = LEFT + TEXT + (charts[0] ?? []).reduce((sum, svg) => sum + svg.clientWidth + LEFT, 0);
  const document = new DOMParser().parseFromString(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${ROW * rows.length}" font-size="13"/>`,
    "image/svg+xml",
  );
  const root = document.documentElement as unknown as SVGSVGElement;
  rows.forEach((row, at) => {
    [...row.querySelectorAll("p")].forEach((words, line) => {
      const text = document.createElementNS(root.namespaceURI, "text");
      text.setAttribute("x", String(LEFT + (TEXT / 2) * Math.floor(line / 3)));
      text.setAttribute("y", String(ROW * at + 24 + LINE * (line % 3)));
      text.setAttribute("fill", ink);
      text.textContent = words.textContent;
      root.append(text);
    });
    let x = LEFT + TEXT;
    for (const svg of charts[at] ?? []) {
      const copy = svg.cloneNode(true) as SVGSVGElement;
      for (const [name, value] of Object.entries({ x, y: ROW * at + 10, width: svg.clientWidth }))
        copy.setAttribute(name, String(value));
      root.append(copy);
      x += svg.clientWidth + LEFT;
    }
  });
  return { text: standingAlone(root, list), width, height: ROW * rows.length };
}
