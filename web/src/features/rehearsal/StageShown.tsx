import { useLayoutEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { useSceneFont } from "./useSceneFont";
import { drawn, mirror, weightOf } from "./drawing";

interface Props {
  /** The product's name in addresses. */
  product: string;
  scene: Schemas["Played"];
  stage: Schemas["Stage"];
  /** The number of the place that is looked at, 0 for none. */
  chosen: number;
  onChoose: (place: number) => void;
}

/** A scene in one language. */
export function StageShown({ product, scene, stage, chosen, onChoose }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const family = useSceneFont(product, stage.font);
  useLayoutEffect(() => {
    const svg = drawn(scene, stage);
    holder.current?.replaceChildren(svg);
    if (stage.rightToLeft) mirror(svg, scene.width);
  }, [scene, stage]);
  useLayoutEffect(() => {
    for (const one of holder.current?.querySelectorAll("[data-place]") ?? []) {
      one.toggleAttribute("data-chosen", one.getAttribute("data-place") === String(chosen));
    }
  }, [scene, stage, chosen]);
  const choose = (target: EventTarget) => {
    const place = target instanceof Element ? target.closest("[data-place]")?.getAttribute("data-place") : null;
    if (place) onChoose(Number(place));
  };
  const wrong = stage.texts.filter(({ findings }) => weightOf(findings) === "wrong").length;
  return (
    <figure className="stage">
      <figcaption>
        <b>{stage.pretend ? t(`rehearsal.pretend.${stage.rightToLeft ? "turned" : "longer"}`) : stage.name}</b>
        {stage.selector !== null && stage.selector !== undefined && (
          <span className="soft"> {t("rehearsal.selector", { n: stage.selector })}</span>
        )}
        <span className={wrong > 0 ? "wrong" : "soft"}>
          {wrong > 0 ? t("rehearsal.wrong", { n: wrong }) : t(stage.font ? "rehearsal.fine" : "rehearsal.notMeasured")}
        </span>
      </figcaption>
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
