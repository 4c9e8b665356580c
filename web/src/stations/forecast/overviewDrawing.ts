import { type Drawing, standingAlone } from "../../shared/savePicture";

const LEFT = 16;
const COLUMN = 180;
const LINE = 18;
const ROOM = 12;

/** The axis and all rows of the overview under each other as one drawing: their words, their charts, their shelves. */
export function overviewDrawing(list: HTMLElement | null): Drawing | null {
  if (!list) return null;
  const ink = getComputedStyle(list).color;
  const root = new DOMParser().parseFromString('<svg xmlns="http://www.w3.org/2000/svg"/>', "image/svg+xml")
    .documentElement as unknown as SVGSVGElement;
  let [width, top] = [0, 0];
  for (const row of list.querySelectorAll<HTMLElement>("[data-axis], [data-target]")) {
    const columns = wordsOf(row);
    columns.forEach((lines, column) => {
      lines.forEach((words, line) => {
        const text = document.createElementNS(root.namespaceURI, "text");
        text.setAttribute("x", String(LEFT + COLUMN * column));
        text.setAttribute("y", String(top + 20 + LINE * line));
        text.setAttribute("fill", ink);
        text.textContent = words;
        root.append(text);
      });
    });
    let x = LEFT + COLUMN * columns.length;
    const charts = [...row.querySelectorAll("svg")];
    for (const svg of charts) {
      const copy = svg.cloneNode(true) as SVGSVGElement;
      for (const [name, value] of Object.entries({ x, y: top + ROOM / 2, width: svg.clientWidth }))
        copy.setAttribute(name, String(value));
      root.append(copy);
      x += svg.clientWidth + LEFT;
    }
    width = Math.max(width, x);
    top += ROOM + Math.max(LINE, ...charts.map((svg) => svg.clientHeight));
  }
  for (const [name, value] of Object.entries({ width, height: top, "font-size": 13 }))
    root.setAttribute(name, String(value));
  return { text: standingAlone(root, list), width, height: top };
}

/** The lines of each column of words in a row. */
function wordsOf(row: HTMLElement): string[][] {
  return [...row.children]
    .map((part) => (part.matches("p") ? [part] : [...part.querySelectorAll("p")]))
    .filter((lines) => lines.length > 0)
    .map((lines) => lines.map((one) => one.textContent ?? ""));
}
