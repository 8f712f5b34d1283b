import { t } from "../words/words";
import "./mark.css";
import type { CellState } from "./scope";

const WELL = "M2.5 1.5h11v9.5a3 3 0 0 1-3 3h-5a3 3 0 0 1-3-3z";

/** The ink well that shows a cell's state: the shape tells, the colour only helps. */
export function Mark({ state, labelled = true }: { state: CellState; labelled?: boolean }) {
  const clip = `well-${state}`;
  return (
    <svg
      className={`mark mark-${state}`}
      width="16"
      height="16"
      viewBox="0 0 16 16"
      role={labelled ? "img" : undefined}
      aria-label={labelled ? t(`state.${state}`) : undefined}
      aria-hidden={labelled ? undefined : true}
    >
      <clipPath id={clip}>
        <path d={WELL} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {state === "settled" && <rect className="ink" width="16" height="16" />}
        {state === "offered" && <rect className="ink" y="8" width="16" height="8" />}
        {state === "returned" && <rect className="ink" y="6.5" width="16" height="3" />}
        {state === "stale" && <path className="ink" d="M0 16 16 1v15z" />}
        {state === "pencilled" && <path className="hatch" d="M-2 8 8-2M0 12 12 0M2 16 16 2M6 18 18 6" />}
      </g>
      <path className="outline" d={WELL} />
    </svg>
  );
}
