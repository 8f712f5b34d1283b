/** The key under which the places in code of an entry are kept. */
export function placesKey(entry: number) {
  return ["codeplaces", entry] as const;
}
