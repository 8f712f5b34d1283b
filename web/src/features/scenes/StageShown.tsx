import { useLayoutEffect, useRef, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { useSceneFont } from "./useSceneFont";
import { drawn, mirror, weightOf, type Look } from "./drawing";
import "./scenes.css";

interface Props {
  /** The product's name in addresses. */
  product: string;
  scene: Schemas["Played"];
  stage: Schemas["Stage"];
  /** The number of the place that is looked at, 0 for none. */
  chosen?: number;
  /** Without it the scene is only looked at. */
  onChoose?: (place: number) => void;
  look?: Omit<Look, "still" | "lit">;
  /** What stands above it instead of the language and its findings. */
  caption?: ReactNode;
}

/** A scene in one language. */
export function StageShown({ product, scene, stage, chosen = 0, onChoose, look, caption }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const family = useSceneFont(product, stage.font);
  const { size, turn } = look ?? {};
  const still = onChoose === undefined;
  const lit = still ? chosen : 0;
  useLayoutEffect(() => {
    const svg = drawn(scene, stage, { ...(size ? { size } : {}), ...(turn === undefined ? {} : { turn }), still, lit });
    holder.current?.replaceChildren(svg);
    if (stage.rightToLeft) mirror(svg, scene.width);
  }, [scene, stage, size, turn, still, lit]);
  useLayoutEffect(() => {
    for (const one of holder.current?.querySelectorAll("[data-place]") ?? []) {
      one.toggleAttribute("data-chosen", one.getAttribute("data-place") === String(chosen));
    }
  }, [scene, stage, size, turn, still, lit, chosen]);
  const choose = (target: EventTarget) => {
    const place = target instanceof Element ? target.closest("[data-place]")?.getAttribute("data-place") : null;
    if (place) onChoose?.(Number(place));
  };
  return (
    <figure className="stage">
      <figcaption>{caption ?? <Caption stage={stage} />}</figcaption>
      <div
        ref={holder}
        style={family ? { fontFamily: family } : undefined}
        onClick={(event) => choose(event.target)}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === " ") {
            event.preventDefault();
            choose(event.target);
          }
        }}
      />
    </figure>
  );
}

/** The language of a stage, and how many of its texts are to be mended. */
function Caption({ stage }: { stage: Schemas["Stage"] }) {
  const wrong = stage.texts.filter(({ findings }) => weightOf(findings) === "wrong").length;
  return (
    <>
      <b>{nameOfStage(stage)}</b>
      {stage.selector !== null && stage.selector !== undefined && (
        <span className="soft"> {t("rehearsal.selector", { n: stage.selector })}</span>
      )}
      <span className={wrong > 0 ? "wrong" : "soft"}>
        {wrong > 0 ? t("rehearsal.wrong", { n: wrong }) : t(stage.font ? "rehearsal.fine" : "rehearsal.notMeasured")}
      </span>
    </>
  );
}

/** What the language of a stage is called. */
export function nameOfStage(stage: Schemas["Stage"]): string {
  return stage.pretend ? t(`rehearsal.pretend.${stage.rightToLeft ? "turned" : "longer"}`) : stage.name;
}
