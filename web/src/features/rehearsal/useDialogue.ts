import { useEffect, useState } from "react";

/** A dialogue that runs: one turn after the other, each as long as it stays. */
export interface Dialogue {
  /** How many turns there are, 0 for a scene without. */
  turns: number;
  /** The turn that is seen, from 0; null where there are none. */
  turn: number | null;
  running: boolean;
  /** For how long the turn stays, in seconds. */
  stays: number;
  go: (to: number) => void;
  run: (on: boolean) => void;
}

/**
 * @param stays - seconds of each turn
 * @param first - the turn that a scene begins with
 * @param of - the number of the scene
 */
export function useDialogue({ stays, first }: { stays: number[]; first: number }, of: number): Dialogue {
  const [reached, setReached] = useState({ of: 0, turn: 0 });
  const at = reached.of === of ? reached.turn : first;
  const [runs, setRuns] = useState(0);
  const running = runs === of && of !== 0;
  const turns = stays.length;
  const turn = turns === 0 ? null : Math.min(at, turns - 1);
  const seconds = turn === null ? 0 : (stays[turn] ?? 0);
  useEffect(() => {
    if (!running || turn === null) return undefined;
    const timer = setTimeout(() => {
      if (turn + 1 < turns) setReached({ of, turn: turn + 1 });
      else setRuns(0);
    }, seconds * 1000);
    return () => clearTimeout(timer);
  }, [of, running, turn, turns, seconds]);
  return {
    turns,
    turn,
    running,
    stays: seconds,
    go: (to) => setReached({ of, turn: Math.max(0, Math.min(turns - 1, to)) }),
    run: (on) => {
      // From the beginning again, once it has ended.
      if (on && turn === turns - 1) setReached({ of, turn: 0 });
      setRuns(on ? of : 0);
    },
  };
}
