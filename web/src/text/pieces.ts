/** A run of a text: words, or a placeholder that a program fills in. */
export interface Piece {
  kind: "words" | "placeholder";
  text: string;
}

// printf with its flags, {{name}}, ${name}, {name}, %(name)s, %@, and tags; the longest spelling first.
const PLACEHOLDER =
  /%(?:\d+\$)?[-+ 0#]*\d*(?:\.\d+)?(?:l{0,2}[dixXuoeEfFgGaAcsp]|@)|%\(\w+\)[sd]|%%|\{\{[^{}]+\}\}|\$\{[^{}]+\}|\{[\w.]+\}|<\/?[a-zA-Z][^<>]*>/g;

/** Cuts a text into words and placeholders; joined again they are the text. */
export function pieces(text: string): Piece[] {
  const result: Piece[] = [];
  let from = 0;
  for (const match of text.matchAll(PLACEHOLDER)) {
    // "50 % de" holds no placeholder: a percent sign after a space and before one is a sign.
    if (match[0].startsWith("% ") && /\d\s?$/.test(text.slice(0, match.index))) continue;
    if (match.index > from) result.push({ kind: "words", text: text.slice(from, match.index) });
    result.push({ kind: "placeholder", text: match[0] });
    from = match.index + match[0].length;
  }
  if (from < text.length) result.push({ kind: "words", text: text.slice(from) });
  return result;
}
