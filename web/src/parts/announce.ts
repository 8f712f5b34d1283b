/** What was done, for those who hear the page and do not see it: said once, when it is done. */
type Listener = (words: string) => void;

let listener: Listener | null = null;

/** Says words to those who hear the page. */
export function announce(words: string): void {
  listener?.(words);
}

/** Takes over what is announced; returns how to stop. */
export function hearAnnouncements(by: Listener): () => void {
  listener = by;
  return () => {
    if (listener === by) listener = null;
  };
}
