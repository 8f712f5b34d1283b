import { useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { t, type WordKey } from "../../words/words";

export type Format = Schemas["FormatReply"];

/** Those that most people mean come first. */
const SPREADSHEETS = ["csv", "xlsx", "ods"];

const NOTHING_YET: Schemas["FormatsReply"] = { formats: [], charsets: [] };

/** The formats and character sets that the server reads, as it says; none until it has said so. */
export function useFormats(): Schemas["FormatsReply"] {
  const said = useQuery({
    queryKey: ["formats"],
    queryFn: ({ signal }) => ask<Schemas["FormatsReply"]>("/api/formats", { signal }),
    select: inOrder,
    staleTime: Infinity,
  });
  return said.data ?? NOTHING_YET;
}

/** The same with spreadsheets first. */
export function inOrder(said: Schemas["FormatsReply"]): Schemas["FormatsReply"] {
  const rank = (format: Format) => {
    const at = SPREADSHEETS.indexOf(format.name);
    return at < 0 ? SPREADSHEETS.length : at;
  };
  return { ...said, formats: [...said.formats].sort((one, other) => rank(one) - rank(other)) };
}

/** The names to choose from, of which `chosen` is always one. */
export function formatNames(said: Schemas["FormatsReply"], chosen: string): string[] {
  return [...new Set([...said.formats.map((one) => one.name), chosen])];
}

/** What people call a format; its name where nobody has said. */
export function formatLabel(name: string): string {
  const key = `format.${name}`;
  const said = t(key as WordKey);
  return said === key ? name : said;
}
