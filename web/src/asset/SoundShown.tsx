import { useEffect, useState } from "react";
import { t } from "../words/words";
import { lengthWords, type Facts } from "./assets";
import { playOrStop, usePlaying } from "./playing";
import { BARS, waveform } from "./waveform";
import "./asset.css";

interface Props {
  file: string;
  name: string;
  facts: Facts | undefined;
  /** Whether it stands in a grid, which the focus goes through by its own keys. */
  inGrid?: boolean;
}

const HEIGHT = 20;
const FLAT = 0.08;

/** A sound: a button that plays it, how loud it is from beginning to end, and how long it takes. */
export function SoundShown({ file, name, facts, inGrid = false }: Props) {
  const playing = usePlaying();
  const [heights, setHeights] = useState<number[] | null>(null);
  const bytes = facts?.bytes ?? 0;
  useEffect(() => {
    let here = true;
    void waveform(file, bytes).then((found) => here && setHeights(found));
    return () => {
      here = false;
    };
  }, [file, bytes]);
  const heard = playing.file === file;
  return (
    <span className="sound" dir="ltr">
      <button
        type="button"
        className={heard ? "playbutton on" : "playbutton"}
        tabIndex={inGrid ? -1 : 0}
        aria-label={t(heard ? "asset.stop" : "asset.play", { name })}
        onMouseDown={(event) => event.preventDefault()}
        onClick={(event) => {
          event.stopPropagation();
          playOrStop(file);
        }}
        onDoubleClick={(event) => event.stopPropagation()}
      >
        {heard ? "■" : "▶"}
      </button>
      <svg className="wave" viewBox={`0 0 ${BARS * 2} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden="true">
        {Array.from({ length: BARS }, (_, bar) => {
          const height = Math.max(FLAT, heights?.[bar] ?? 0) * HEIGHT;
          return (
            <rect
              key={bar}
              className={heard && bar / BARS < playing.far ? "heard" : undefined}
              x={bar * 2}
              y={(HEIGHT - height) / 2}
              width={1.3}
              height={height}
            />
          );
        })}
      </svg>
      {facts && facts.milliseconds > 0 && <span className="soundlength">{lengthWords(facts.milliseconds)}</span>}
      {playing.failed === file && (
        <span className="wrong" role="alert">
          {t("asset.notPlayed")}
        </span>
      )}
    </span>
  );
}
