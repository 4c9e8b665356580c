const SCALE = 2;

/** An SVG document and its size in pixels. */
export interface Drawing {
  text: string;
  width: number;
  height: number;
}

/** Saves a drawing as a file of its own, or as a picture of twice its size. */
export async function savePicture(drawing: Drawing | null, name: string, as: "svg" | "png"): Promise<void> {
  if (!drawing) return;
  const { text, width, height } = drawing;
  if (as === "svg") {
    download(new Blob([text], { type: "image/svg+xml" }), `${name}.svg`);
    return;
  }
  const image = new Image();
  await new Promise<void>((resolve, reject) => {
    image.onload = () => resolve();
    image.onerror = () => reject(new Error("The drawing cannot be made into a picture"));
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  });
  const canvas = document.createElement("canvas");
  canvas.width = width * SCALE;
  canvas.height = height * SCALE;
  const pen = canvas.getContext("2d");
  pen?.scale(SCALE, SCALE);
  pen?.drawImage(image, 0, 0, width, height);
  canvas.toBlob((picture) => picture && download(picture, `${name}.png`), "image/png");
}

/** What is drawn on the page as a drawing of its own. */
export function drawingOf(svg: SVGSVGElement | null | undefined): Drawing | null {
  return svg ? { text: standingAlone(svg), width: svg.clientWidth, height: svg.clientHeight } : null;
}

/** The drawing with its size, its ground and the name of its letters written into it, so that it looks the same
 * elsewhere. Its letters are those of what stands `near` it on the page. */
export function standingAlone(svg: SVGSVGElement, near: Element = svg): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const style = getComputedStyle(near);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("font-family", style.fontFamily);
  copy.removeAttribute("tabindex");
  copy.removeAttribute("style");
  const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  ground.setAttribute("width", "100%");
  ground.setAttribute("height", "100%");
  ground.setAttribute("fill", getComputedStyle(document.body).backgroundColor);
  copy.prepend(ground);
  return new XMLSerializer().serializeToString(copy);
}

function download(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
