const SCALE = 2;

/** Saves an SVG drawing as a file of its own, or as a picture of twice its size. Its letters are those of the page. */
export async function savePicture(svg: SVGSVGElement | null, name: string, as: "svg" | "png"): Promise<void> {
  if (!svg) return;
  const text = standingAlone(svg);
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
  canvas.width = svg.clientWidth * SCALE;
  canvas.height = svg.clientHeight * SCALE;
  const pen = canvas.getContext("2d");
  pen?.scale(SCALE, SCALE);
  pen?.drawImage(image, 0, 0, svg.clientWidth, svg.clientHeight);
  canvas.toBlob((picture) => picture && download(picture, `${name}.png`), "image/png");
}

/** The drawing with its size, its ground and the name of its letters written into it, so that it looks the same elsewhere. */
export function standingAlone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const style = getComputedStyle(svg);
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
