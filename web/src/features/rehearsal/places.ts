import type { Schemas } from "../../api/client";

/** A box that is marked on a picture: what is covered, and which text is shown there how. In pixels of the picture. */
export interface Box {
  key: string;
  x: number;
  y: number;
  width: number;
  height: number;
  lines: number;
  /** Of the letters, in pixels per em. */
  size: number;
  align: "start" | "middle" | "end";
  /** Of the letters. */
  color: string;
  /** What hides what is painted there. */
  cover: string;
  /** Whether it is not mirrored where people read from right to left. */
  keeps: boolean;
  latinDigits: boolean;
  /** Sample values by the names of placeholders. */
  sample: Record<string, string>;
}

/** How far a box jumps to an edge. */
export const SNAP = 4;
export const SMALLEST = 8;

/** A box within a picture, of whole pixels and not too small. */
export function within<B extends Pick<Box, "x" | "y" | "width" | "height">>(box: B, width: number, height: number): B {
  const wide = Math.round(Math.min(width, Math.max(SMALLEST, box.width)));
  const high = Math.round(Math.min(height, Math.max(SMALLEST, box.height)));
  return {
    ...box,
    width: wide,
    height: high,
    x: Math.round(Math.min(width - wide, Math.max(0, box.x))),
    y: Math.round(Math.min(height - high, Math.max(0, box.y))),
  };
}

/** The nearest of some edges, where one is near. */
export function snapped(at: number, edges: number[], near = SNAP): number {
  let best = at;
  let distance = near + 1;
  for (const edge of edges) {
    const away = Math.abs(edge - at);
    if (away < distance) {
      best = edge;
      distance = away;
    }
  }
  return best;
}

/** The edges that a box can jump to: those of the others and of the picture. */
export function edgesOf(boxes: Box[], width: number, height: number): { xs: number[]; ys: number[] } {
  return {
    xs: [0, width, ...boxes.flatMap((box) => [box.x, box.x + box.width])],
    ys: [0, height, ...boxes.flatMap((box) => [box.y, box.y + box.height])],
  };
}

/** A box that is moved, with its nearer side on an edge where one is near. */
export function moved(box: Box, dx: number, dy: number, edges: { xs: number[]; ys: number[] } | null): Box {
  const x = box.x + dx;
  const y = box.y + dy;
  if (!edges) return { ...box, x, y };
  return { ...box, x: aligned(x, box.width, edges.xs), y: aligned(y, box.height, edges.ys) };
}

function aligned(at: number, length: number, edges: number[]): number {
  const begin = snapped(at, edges);
  return begin === at ? snapped(at + length, edges) - length : begin;
}

/** A box of which the end is moved. */
export function resized(box: Box, dx: number, dy: number, edges: { xs: number[]; ys: number[] } | null): Box {
  const right = box.x + box.width + dx;
  const bottom = box.y + box.height + dy;
  return {
    ...box,
    width: Math.max(SMALLEST, (edges ? snapped(right, edges.xs) : right) - box.x),
    height: Math.max(SMALLEST, (edges ? snapped(bottom, edges.ys) : bottom) - box.y),
  };
}

/** What a key does to a box; null for a key that does nothing. */
export type BoxCommand =
  | { do: "move"; dx: number; dy: number }
  | { do: "resize"; dx: number; dy: number }
  | { do: "copy" }
  | { do: "remove" }
  | { do: "name" };

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Arrows move a box by a pixel, with Shift by ten, with Alt they move its end; Ctrl+D copies, Delete takes it away, Enter goes to its key. */
export function boxCommand(event: {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}): BoxCommand | null {
  const arrow = ARROWS[event.key];
  if (arrow && !event.ctrlKey && !event.metaKey) {
    const by = event.shiftKey ? 10 : 1;
    return { do: event.altKey ? "resize" : "move", dx: arrow[0] * by, dy: arrow[1] * by };
  }
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "d") return { do: "copy" };
  if (event.key === "Delete" || event.key === "Backspace") return { do: "remove" };
  return event.key === "Enter" ? { do: "name" } : null;
}

const SVG = "http://www.w3.org/2000/svg";
/** From the middle of letters down to the line that they stand on, in their size. */
const HALF = 0.35;

const ALIGNED = { START: "start", MIDDLE: "middle", END: "end" } as const;

/** The boxes of a picture with places, as the server cleaned it. */
export function boxesIn(drawing: string, places: Schemas["ScenePlace"][]): Box[] {
  const svg = new DOMParser().parseFromString(drawing, "image/svg+xml").documentElement;
  const covers = [...svg.querySelectorAll("rect[data-cover]")];
  const n = (element: Element, name: string) => Number(element.getAttribute(name) ?? 0);
  return covers.flatMap((rect) => {
    const text = rect.nextElementSibling;
    const place = places.find(({ number }) => String(number) === text?.getAttribute("data-place"));
    if (!text || !place) return [];
    return [
      {
        key: place.key ?? "",
        x: n(rect, "x"),
        y: n(rect, "y"),
        width: n(rect, "width"),
        height: n(rect, "height"),
        lines: place.lines ?? 1,
        size: place.size ?? 16,
        align: ALIGNED[place.align ?? "START"],
        color: text.getAttribute("fill") ?? "#000000",
        cover: rect.getAttribute("fill") ?? "#ffffff",
        keeps: place.keepsDirection ?? false,
        latinDigits: place.latinDigits ?? false,
        sample: place.with ?? {},
      },
    ];
  });
}

/** A picture with boxes as the drawing that it is kept as. */
export function drawingOf(picture: { href: string; width: number; height: number }, boxes: Box[]): string {
  const svg = document.implementation.createDocument(SVG, "svg");
  const root = svg.documentElement;
  root.setAttribute("viewBox", `0 0 ${picture.width} ${picture.height}`);
  const add = (name: string, attributes: Record<string, string | number>) => {
    const element = svg.createElementNS(SVG, name);
    for (const [attribute, value] of Object.entries(attributes)) element.setAttribute(attribute, String(value));
    root.append(element);
    return element;
  };
  add("image", { "data-picture": "marked", width: picture.width, height: picture.height, href: picture.href });
  for (const box of boxes) {
    add("rect", { "data-cover": "place", x: box.x, y: box.y, width: box.width, height: box.height, fill: box.cover });
    const at = box.align === "start" ? box.x : box.align === "end" ? box.x + box.width : box.x + box.width / 2;
    add("text", {
      "data-entry": box.key,
      x: at,
      y: box.y + box.height / 2 + box.size * HALF,
      fill: box.color,
      "font-size": box.size,
      "text-anchor": box.align,
      "data-width": box.width,
      "data-height": box.height,
      "data-lines": box.lines,
      ...(box.keeps ? { "data-keep": "ltr" } : {}),
      ...(box.latinDigits ? { "data-digits": "latn" } : {}),
      ...(Object.keys(box.sample).length > 0 ? { "data-with": JSON.stringify(box.sample) } : {}),
    });
  }
  return new XMLSerializer().serializeToString(root);
}

/** The picture of a scene, null for a drawing that is none. */
export function pictureIn(drawing: string): string | null {
  const svg = new DOMParser().parseFromString(drawing, "image/svg+xml").documentElement;
  return svg.querySelector("image[data-picture]")?.getAttribute("href") ?? null;
}

/** Sample values as they are typed: `n=5, name=Aino`. What has no sign is the rest of a value with a comma in it. */
export function sampleIn(typed: string): Record<string, string> {
  const sample: Record<string, string> = {};
  let last = "";
  for (const one of typed.split(",")) {
    const sign = one.indexOf("=");
    // Quotes and backslashes cannot stand in a drawing's values.
    const sound = (part: string) => part.replace(/["\\]/g, "").trim();
    if (sign > 0 && sound(one.slice(0, sign))) {
      last = sound(one.slice(0, sign));
      sample[last] = sound(one.slice(sign + 1));
    } else if (last && sign < 0) {
      sample[last] += `, ${sound(one)}`;
    }
  }
  return sample;
}

/** Sample values as they are typed. */
export function sampleSaid(sample: Record<string, string>): string {
  return Object.entries(sample)
    .map(([name, value]) => `${name}=${value}`)
    .join(", ");
}
