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

/** @param stays - seconds of each turn */
export function useDialogue(stays: number[]): Dialogue {
  const [at, setAt] = useState(0);
  const [running, setRunning] = useState(false);
  const turns = stays.length;
  const turn = turns === 0 ? null : Math.min(at, turns - 1);
  const seconds = turn === null ? 0 : (stays[turn] ?? 0);
  useEffect(() => {
    if (!running || turn === null) return undefined;
    const timer = setTimeout(() => {
      if (turn + 1 < turns) setAt(turn + 1);
      else setRunning(false);
    }, seconds * 1000);
    return () => clearTimeout(timer);
  }, [running, turn, turns, seconds]);
  return {
    turns,
    turn,
    running,
    stays: seconds,
    go: (to) => setAt(Math.max(0, Math.min(turns - 1, to))),
    run: (on) => {
      // From the beginning again, once it has ended.
      if (on && turn === turns - 1) setAt(0);
      setRunning(on);
    },
  };
}
