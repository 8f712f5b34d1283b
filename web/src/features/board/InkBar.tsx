import { STATES } from "../../scope/scope";

const INKED = [...STATES].reverse();

/** A bar of ink in the six states, exact to the entry; its words stand in the cell around it. */
export function InkBar({ counts }: { counts: Record<string, number> }) {
  const all = STATES.reduce((sum, state) => sum + (counts[state] ?? 0), 0);
  return (
    <span className="inkbar" aria-hidden="true">
      {INKED.map((state) => {
        const amount = counts[state] ?? 0;
        return amount > 0 ? (
          <span key={state} className={`part ${state}`} style={{ flexGrow: amount, flexBasis: 0 }} />
        ) : null;
      })}
      {all === 0 && <span className="part untranslated" style={{ flexGrow: 1 }} />}
    </span>
  );
}
