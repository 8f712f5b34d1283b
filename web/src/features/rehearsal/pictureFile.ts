/** A font that a picture brings along. */
export interface FontIn {
  family: string;
  /** `data:` address of the font's file. */
  data: string;
}

/**
 * A scene as a file of its own: what its texts are shown with is in it, and pictures of other addresses are not.
 *
 * @param svg - as it stands in the page
 * @param width - in pixels
 * @param height - in pixels
 * @param font - null where the scene is shown in the page's own
 */
export function svgFile(svg: SVGSVGElement, width: number, height: number, font: FontIn | null): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  copy.setAttribute("font-family", font ? `${font.family}, sans-serif` : "sans-serif");
  for (const one of copy.querySelectorAll("[tabindex], [role], [data-chosen]")) {
    for (const name of ["tabindex", "role", "data-chosen"]) one.removeAttribute(name);
  }
  for (const image of copy.querySelectorAll("image")) {
    if (!(image.getAttribute("href") ?? "").startsWith("data:")) image.removeAttribute("href");
  }
  const style = document.createElementNS("http://www.w3.org/2000/svg", "style");
  style.textContent =
    (font ? `@font-face{font-family:${font.family};src:url(${font.data})}` : "") +
    "svg{font-synthesis:none}.lent{text-decoration:underline}.wrong{text-decoration:underline wavy #ff8fa0}";
  copy.prepend(style);
  return new XMLSerializer().serializeToString(copy);
}

/** A file as a `data:` address. */
export function dataUrl(file: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error ?? new Error("unreadable"));
    reader.readAsDataURL(file);
  });
}

/** A drawing as a picture of twice its size, as screens have it. */
export async function pngOf(svg: string, width: number, height: number): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = width * 2;
  canvas.height = height * 2;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) => {
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("no picture"))), "image/png");
  });
}

/** Hands a file to the browser, to be saved. */
export function save(file: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** A name that every file system takes. */
export function fileName(...parts: string[]): string {
  return parts.map((part) => part.replace(/[^\p{L}\p{N}._-]+/gu, "-").replace(/^-+|-+$/g, "")).join("_");
}
