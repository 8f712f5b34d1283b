import { useEffect, useRef, useState, type PointerEvent } from "react";
import { t } from "../../words/words";
import { boxCommand, edgesOf, moved, resized, SMALLEST, type Box } from "./places";
import type { useBoxes } from "./useBoxes";

interface Props {
  picture: string;
  width: number;
  height: number;
  boxes: Box[];
  chosen: number;
  tell: ReturnType<typeof useBoxes>["tell"];
  onAdd: (part: Pick<Box, "x" | "y" | "width" | "height">) => void;
}

/** What the pointer is doing. */
interface Drag {
  kind: "new" | "move" | "resize";
  index: number;
  x: number;
  y: number;
  /** The box as it was when the drag began. */
  from: Box | null;
  /** Whether something has moved, which then is one change. */
  begun: boolean;
}

/** A picture with its boxes: drawn, moved and resized by the pointer, and by keys once one has the focus. */
export function Marking({ picture, width, height, boxes, chosen, tell, onAdd }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<Drag | null>(null);
  const [drawing, setDrawing] = useState<Pick<Box, "x" | "y" | "width" | "height"> | null>(null);
  const focused = useRef(-1);
  // Who chooses a box in the list, adds or copies one goes on with it by keys.
  useEffect(() => {
    if (chosen >= 0 && focused.current !== chosen) {
      const typing = document.activeElement instanceof HTMLInputElement;
      if (!typing) svg.current?.querySelector<SVGGElement>(`[data-box="${chosen}"]`)?.focus({ preventScroll: true });
    }
    focused.current = chosen;
  }, [chosen, boxes.length]);
  const pointed = (event: PointerEvent) => {
    const at = svg.current?.getBoundingClientRect();
    if (!at || at.width === 0) return { x: 0, y: 0 };
    const scale = width / at.width;
    return { x: (event.clientX - at.left) * scale, y: (event.clientY - at.top) * scale };
  };
  const begin = (event: PointerEvent, kind: Drag["kind"], index: number) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    svg.current?.setPointerCapture(event.pointerId);
    const { x, y } = pointed(event);
    drag.current = { kind, index, x, y, from: boxes[index] ?? null, begun: false };
    if (index >= 0) tell({ do: "choose", index });
  };
  const go = (event: PointerEvent) => {
    const now = drag.current;
    if (!now) return;
    const { x, y } = pointed(event);
    if (now.kind === "new") {
      setDrawing({
        x: Math.min(x, now.x),
        y: Math.min(y, now.y),
        width: Math.abs(x - now.x),
        height: Math.abs(y - now.y),
      });
      return;
    }
    if (!now.from) return;
    const edges = event.altKey
      ? null
      : edgesOf(
          boxes.filter((_, at) => at !== now.index),
          width,
          height,
        );
    const change = now.kind === "move" ? moved : resized;
    tell({ do: "set", index: now.index, box: change(now.from, x - now.x, y - now.y, edges), goesOn: now.begun });
    now.begun = true;
  };
  const finish = () => {
    if (drag.current?.kind === "new" && drawing && drawing.width >= SMALLEST && drawing.height >= SMALLEST)
      onAdd(drawing);
    drag.current = null;
    setDrawing(null);
  };
  const onKey = (event: React.KeyboardEvent, index: number) => {
    const box = boxes[index];
    const command = boxCommand(event);
    if (!command || !box) return;
    event.preventDefault();
    switch (command.do) {
      case "move":
      case "resize": {
        const change = command.do === "move" ? moved : resized;
        tell({ do: "set", index, box: change(box, command.dx, command.dy, null), goesOn: false });
        break;
      }
      case "copy":
        tell({ do: "add", box: { ...box, x: box.x + 12, y: box.y + 12 } });
        break;
      case "remove":
        tell({ do: "remove", index });
        break;
      case "name":
        document.getElementById("box-key")?.focus();
    }
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      className="marking"
      role="group"
      aria-label={t("marks.picture")}
      onPointerDown={(event) => begin(event, "new", -1)}
      onPointerMove={go}
      onPointerUp={finish}
      onPointerCancel={() => {
        drag.current = null;
        setDrawing(null);
      }}
    >
      <image href={picture} width={width} height={height} />
      {boxes.map((box, at) => (
        <g
          key={at}
          data-box={at}
          tabIndex={0}
          role="button"
          aria-pressed={at === chosen}
          aria-label={t("marks.box", { n: at + 1, key: box.key || t("marks.noKey") })}
          className={at === chosen ? "chosen" : undefined}
          onFocus={() => {
            if (at !== chosen) tell({ do: "choose", index: at });
          }}
          onKeyDown={(event) => onKey(event, at)}
          onPointerDown={(event) => begin(event, "move", at)}
        >
          <rect className="cover" x={box.x} y={box.y} width={box.width} height={box.height} fill={box.cover} />
          {at === chosen && (
            <text
              x={box.align === "start" ? box.x : box.align === "end" ? box.x + box.width : box.x + box.width / 2}
              y={box.y + box.height / 2 + box.size * 0.35}
              fontSize={box.size}
              fill={box.color}
              textAnchor={box.align}
            >
              {box.key}
            </text>
          )}
          <circle className="number" cx={box.x} cy={box.y} r={9} />
          <text className="number" x={box.x} y={box.y + 4} textAnchor="middle">
            {at + 1}
          </text>
          {at === chosen && (
            <rect
              className="handle"
              x={box.x + box.width - 5}
              y={box.y + box.height - 5}
              width={10}
              height={10}
              onPointerDown={(event) => begin(event, "resize", at)}
            />
          )}
        </g>
      ))}
      {drawing && <rect className="drawing" {...drawing} />}
    </svg>
  );
}
