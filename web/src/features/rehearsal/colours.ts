/** Pixels of a picture, four bytes each (red, green, blue, opacity), row by row. */
export interface Pixels {
  data: ArrayLike<number>;
  width: number;
  height: number;
}

/** The colours around a painted text and of its letters. */
export interface Painted {
  cover: string;
  color: string;
}

/** As near as two colours are one to people. */
const STEP = 16;

/**
 * What a text is painted with: around it the colour that its edge has most, its letters the one that is farthest from that among those that are there more
 * than by chance.
 */
export function paintedIn(pixels: Pixels): Painted {
  const { width, height } = pixels;
  const edge = new Map<number, number>();
  const all = new Map<number, number>();
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const colour = at(pixels, x, y);
      all.set(colour, (all.get(colour) ?? 0) + 1);
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) edge.set(colour, (edge.get(colour) ?? 0) + 1);
    }
  }
  const cover = mostOf(edge);
  const enough = (width * height) / 200;
  let farthest = -1;
  let color = contrasting(cover);
  for (const [colour, often] of all) {
    const away = distance(colour, cover);
    if (often >= enough && away > farthest && away > 3 * STEP) {
      farthest = away;
      color = colour;
    }
  }
  return { cover: hex(cover), color: hex(color) };
}

function at({ data, width }: Pixels, x: number, y: number): number {
  const i = (y * width + x) * 4;
  const part = (n: number) => Math.min(255, Math.round((data[i + n] ?? 0) / STEP) * STEP);
  return (part(0) << 16) | (part(1) << 8) | part(2);
}

function mostOf(counts: Map<number, number>): number {
  let most = 0;
  let found = 0xffffff;
  for (const [colour, often] of counts) {
    if (often > most) {
      most = often;
      found = colour;
    }
  }
  return found;
}

function distance(a: number, b: number): number {
  return [16, 8, 0].reduce((sum, shift) => sum + Math.abs(((a >> shift) & 255) - ((b >> shift) & 255)), 0);
}

function contrasting(colour: number): number {
  return distance(colour, 0) > distance(colour, 0xffffff) ? 0 : 0xffffff;
}

function hex(colour: number): string {
  return `#${colour.toString(16).padStart(6, "0")}`;
}
