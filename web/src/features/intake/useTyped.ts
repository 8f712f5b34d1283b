import { useState, type ChangeEvent, type KeyboardEvent } from "react";

/**
 * A text that can be typed on while an earlier one is on its way. It is sent when its field is left or Enter is pressed, once; what comes back is shown as soon
 * as nobody types.
 *
 * @param value - what is known
 * @param busy - whether something is on its way
 * @returns what the field has to be given
 */
export function useTyped(value: string, busy: boolean, send: (text: string) => void) {
  const [typed, setTyped] = useState<string | null>(null);
  const [typing, setTyping] = useState(false);
  const [sent, setSent] = useState<string | null>(null);
  const [seen, setSeen] = useState(value);
  if (seen !== value) {
    setSeen(value);
    setSent(null);
    if (!typing) setTyped(null);
  }
  const done = (again: boolean) => {
    setTyping(false);
    const text = (typed ?? value).trim();
    if (text === value || text === "") setTyped(null);
    if (text === (again ? value : (sent ?? value))) return;
    setSent(text);
    send(text);
  };
  return {
    value: typed ?? value,
    onChange: (event: ChangeEvent<HTMLInputElement>) => {
      setTyping(true);
      setTyped(event.target.value);
    },
    onBlur: () => done(false),
    // What was refused can be sent once more.
    onKeyDown: (event: KeyboardEvent) => event.key === "Enter" && done(!busy),
  };
}
