import { useEffect, useState } from "react";
import { hearAnnouncements } from "./announce";

/** The one place from which the page speaks to those who hear it. */
export function Announcer() {
  const [said, setSaid] = useState({ words: "", turn: 0 });
  useEffect(() => hearAnnouncements((words) => setSaid((before) => ({ words, turn: before.turn + 1 }))), []);
  // The same words twice are said twice: they come in another element.
  return (
    <div role="status" className="visually-hidden announced">
      <span key={said.turn}>{said.words}</span>
    </div>
  );
}
