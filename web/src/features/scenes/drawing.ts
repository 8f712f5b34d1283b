import type { Schemas } from "../../api/client";

type Played = Schemas["Played"];
type Stage = Schemas["Stage"];
type Place = Required<Schemas["ScenePlace"]>;

const SVG = "http://www.w3.org/2000/svg";
/** The distance of two lines, in the size of their letters. */
const LINE = 1.25;
const ANCHORS = { START: "start", MIDDLE: "middle", END: "end" } as const;
const OTHER_END: Record<string, string> = { start: "end", end: "start", middle: "middle" };

/** What is worst about a place: something to mend, something to mind, or nothing. */
export function weightOf(findings: Schemas["SceneFinding"][]): "wrong" | "mind" | "" {
  if (findings.length === 0) return "";
  return findings.some(({ wrong }) => wrong) ? "wrong" : "mind";
}

/** How a scene is shown. */
export interface Look {
  /** The size of letters, as a part of the drawing's. */
  size?: number;
  /** Only this turn of a dialogue, from 0. */
  turn?: number | null;
  /** The number of a place that must be seen, where no turn is said. */
  lit?: number;
  /** Whether places can be chosen. */
  still?: boolean;
}

/**
 * A scene in a language as an element of the page. The server has left nothing in the drawing but what draws; it is read as XML all the same, so that
 * nothing in it can be taken for a page.
 */
export function drawn(scene: Played, stage: Stage, look: Look = {}): SVGSVGElement {
  const read = new DOMParser().parseFromString(scene.drawing, "image/svg+xml").documentElement;
  const svg = document.importNode(read, true) as unknown as SVGSVGElement;
  svg.setAttribute("role", look.still ? "img" : "group");
  for (const text of stage.texts) {
    const place = scene.places.find(({ number }) => number === text.place) as Place | undefined;
    const element = svg.querySelector(`[data-place="${text.place}"]`);
    if (!place || !element) continue;
    label(element, text, look);
    if (place.asset) show(element, text);
    else fill(element, place, text, stage, look.size ?? 1);
  }
  const turn = look.turn ?? turnWith(svg, look.lit ?? 0);
  turnsOf(svg).forEach((one, at) => one.setAttribute("visibility", at === turn ? "visible" : "hidden"));
  return svg;
}

/** The parts of a drawing that are seen one after the other. */
export function turnsOf(drawing: Element): Element[] {
  return [...drawing.querySelectorAll("[data-stays]")].filter((one) => !one.parentElement?.closest("[data-stays]"));
}

/** The turn in which a place is seen, from 0; the first where it is in none. */
function turnWith(drawing: Element, place: number): number {
  const lit = drawing.querySelector(`[data-place="${place}"]`);
  return Math.max(
    0,
    turnsOf(drawing).findIndex((one) => one.contains(lit)),
  );
}

/** For how many seconds each turn of a scene is seen, none where nothing is seen for a while only; and the turn that has a place. */
export function staysOf(drawing: string, place = 0): { stays: number[]; first: number } {
  if (!drawing.includes("data-stays")) return { stays: [], first: 0 };
  const read = new DOMParser().parseFromString(drawing, "image/svg+xml").documentElement;
  return {
    stays: turnsOf(read).map((turn) => Number(turn.getAttribute("data-stays"))),
    first: turnWith(read, place),
  };
}

function label(element: Element, text: Schemas["PlaceText"], look: Look): void {
  element.setAttribute(
    "class",
    ["shown", weightOf(text.findings), text.borrowed ? "lent" : ""].filter(Boolean).join(" "),
  );
  if (look.still) return;
  element.setAttribute("tabindex", "0");
  element.setAttribute("role", "button");
  element.setAttribute("aria-label", `${text.key}: ${text.asset?.name ?? text.lines.join(" ")}`);
}

/** A picture of its own in each language. */
function show(element: Element, text: Schemas["PlaceText"]): void {
  if (text.asset) element.setAttribute("href", `/api/assets/${text.asset.file}`);
}

/** What stands for a letter that a font lacks, as on the device. */
const NO_LETTER = "\u25AF";

/** A line with a box for each letter that the font lacks. */
export function boxed(line: string, findings: Schemas["SceneFinding"][]): string {
  const missing = findings.find(({ code }) => code === "letters-missing")?.values.letters;
  if (!Array.isArray(missing)) return line;
  return [...line].map((letter) => (missing.includes(letter) ? NO_LETTER : letter)).join("");
}

function fill(element: Element, place: Place, text: Schemas["PlaceText"], stage: Stage, size: number): void {
  const turned = stage.rightToLeft && !place.keepsDirection;
  const letters = place.size * size;
  element.setAttribute("text-anchor", ANCHORS[place.align]);
  element.setAttribute("direction", turned ? "rtl" : "ltr");
  element.setAttribute("lang", text.from ?? "");
  element.setAttribute("font-size", String(letters));
  const lines = text.asset ? [`\u266A ${text.asset.name}`] : text.lines.map((line) => boxed(line, text.findings));
  // Lines stand around the middle of a box; without one they go on downwards.
  const up = place.height > 0 && place.lines > 1 ? ((lines.length - 1) * letters * LINE) / 2 : 0;
  lines.forEach((line, i) => {
    const span = document.createElementNS(SVG, "tspan");
    span.setAttribute("x", String(place.x));
    span.setAttribute("y", String(place.y - up + i * letters * LINE));
    span.textContent = line;
    element.append(span);
  });
}

/** Turns a drawing that stands in the page for people who read from right to left: all of it, but for words and what is kept. */
export function mirror(svg: SVGSVGElement, width: number): void {
  const all = document.createElementNS(SVG, "g");
  all.setAttribute("transform", `translate(${width} 0) scale(-1 1)`);
  all.append(...svg.childNodes);
  svg.append(all);
  for (const kept of all.querySelectorAll<SVGGraphicsElement>("[data-keep]")) {
    if (kept.localName !== "text") turnBack(kept, middleOf(kept));
  }
  for (const text of all.querySelectorAll("text")) {
    if (text.closest("g[data-keep]")) continue;
    turnBack(text, Number(text.getAttribute("x") ?? 0));
    // Words that are no place keep their direction, and so begin at the other end.
    if (text.getAttribute("direction") !== "rtl") {
      text.setAttribute("text-anchor", OTHER_END[text.getAttribute("text-anchor") ?? "start"] ?? "end");
    }
  }
}

function middleOf(element: SVGGraphicsElement): number {
  const box = element.getBBox();
  return box.x + box.width / 2;
}

function turnBack(element: Element, around: number): void {
  const before = element.getAttribute("transform");
  element.setAttribute("transform", `${before ? `${before} ` : ""}translate(${2 * around} 0) scale(-1 1)`);
}
