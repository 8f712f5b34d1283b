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
  return findings.some(({ code }) => code !== "borrowed" && code !== "stale") ? "wrong" : "mind";
}

/**
 * A scene in a language as an element of the page. The server has left nothing in the drawing but what draws; it is read as XML all the same, so that
 * nothing in it can be taken for a page.
 */
export function drawn(scene: Played, stage: Stage): SVGSVGElement {
  const read = new DOMParser().parseFromString(scene.drawing, "image/svg+xml").documentElement;
  const svg = document.importNode(read, true) as unknown as SVGSVGElement;
  svg.setAttribute("role", "group");
  for (const text of stage.texts) {
    const place = scene.places.find(({ number }) => number === text.place) as Place | undefined;
    const element = svg.querySelector(`[data-place="${text.place}"]`);
    if (place && element && !place.asset) fill(element, place, text, stage);
  }
  return svg;
}

function fill(element: Element, place: Place, text: Schemas["PlaceText"], stage: Stage): void {
  const turned = stage.rightToLeft && !place.keepsDirection;
  element.setAttribute("text-anchor", ANCHORS[place.align]);
  element.setAttribute("direction", turned ? "rtl" : "ltr");
  element.setAttribute("lang", text.from ?? "");
  element.setAttribute(
    "class",
    ["shown", weightOf(text.findings), text.borrowed ? "lent" : ""].filter(Boolean).join(" "),
  );
  element.setAttribute("tabindex", "0");
  element.setAttribute("role", "button");
  element.setAttribute("aria-label", `${text.key}: ${text.lines.join(" ")}`);
  // Lines stand around the middle of a box; without one they go on downwards.
  const up = place.height > 0 && place.lines > 1 ? ((text.lines.length - 1) * place.size * LINE) / 2 : 0;
  text.lines.forEach((line, i) => {
    const span = document.createElementNS(SVG, "tspan");
    span.setAttribute("x", String(place.x));
    span.setAttribute("y", String(place.y - up + i * place.size * LINE));
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
