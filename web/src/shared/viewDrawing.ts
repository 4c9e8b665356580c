import { type Drawing, standingAlone } from "./savePicture";

const ROOM = 12;
const SPACE = /\S+\s*/g;

/** A line of words as it stands on the page. */
interface WordLine {
  words: string;
  left: number;
  right: number;
  bottom: number;
  of: Element;
}

/** What a part of the page shows as one drawing: its words where they stand, line by line, and its charts. Buttons stay out. */
export function viewDrawing(view: HTMLElement | null): Drawing | null {
  if (!view) return null;
  const frame = view.getBoundingClientRect();
  const root = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  const at = (left: number, top: number) => ({
    x: String(left - frame.left + ROOM),
    y: String(top - frame.top + ROOM),
  });
  for (const svg of view.querySelectorAll<SVGSVGElement>("svg")) {
    if (svg.closest("button") || svg.parentElement?.closest("svg")) continue;
    const { left, top, width, height } = svg.getBoundingClientRect();
    const copy = svg.cloneNode(true) as SVGSVGElement;
    write(copy, { ...at(left, top), width: String(width), height: String(height) });
    root.append(copy);
  }
  for (const line of linesOf(view)) {
    const text = document.createElementNS(root.namespaceURI, "text") as SVGTextElement;
    const { color, fontSize, fontWeight, fontFamily } = getComputedStyle(line.of);
    const font = { "font-size": fontSize, "font-weight": fontWeight, "font-family": fontFamily };
    write(text, {
      ...at(line.left, line.bottom),
      ...font,
      fill: color,
      "dominant-baseline": "text-after-edge",
    });
    // Where the file is opened there may be other letters: each line keeps the room that it has here.
    write(text, { textLength: String(line.right - line.left), lengthAdjust: "spacingAndGlyphs" });
    text.textContent = line.words.trimEnd();
    root.append(text);
  }
  const [width, height] = [Math.ceil(frame.width) + 2 * ROOM, Math.ceil(frame.height) + 2 * ROOM];
  write(root, { width: String(width), height: String(height) });
  return { text: standingAlone(root, view), width, height };
}

function write(part: Element, values: Record<string, string>): void {
  for (const [name, value] of Object.entries(values)) part.setAttribute(name, value);
}

/** Every line of words in a part of the page: a text goes over to the next one where the browser breaks it. */
function* linesOf(view: HTMLElement): Generator<WordLine> {
  const walk = document.createTreeWalker(view, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  for (let node = walk.nextNode(); node; node = walk.nextNode()) {
    const of = node.parentElement;
    if (!of || of.closest("svg, button, style")) continue;
    yield* brokenWhereItIs(node, of, range);
  }
}

/** The lines of one text. What is there for those alone who hear the page has no room on it. */
function brokenWhereItIs(node: Node, of: Element, range: Range): WordLine[] {
  const lines: WordLine[] = [];
  for (const { 0: word, index } of (node.textContent ?? "").matchAll(SPACE)) {
    range.setStart(node, index);
    range.setEnd(node, index + word.trimEnd().length);
    const { left, right, bottom, width } = range.getBoundingClientRect();
    const line = lines.at(-1);
    if (width < 1) continue;
    if (line && Math.abs(line.bottom - bottom) < 2) Object.assign(line, { words: line.words + word, right });
    else lines.push({ words: word, left, right, bottom, of });
  }
  return lines;
}
