import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";

/** The first part of the keys of everything that is asked about code. */
export const CODE = "code";

/** So many rows come at once. */
export const PAGE = 200;
const POLL_MS = 700;

/** The address of what is known about the code of a product. */
export function codeOf(product: string): string {
  return `/api/products/${encodeURIComponent(product)}/code`;
}

/** How the code of a product stands to its tables. */
export function useOverview(product: string) {
  return useQuery({
    queryKey: [CODE, product, "overview"],
    queryFn: ({ signal }) => ask<Schemas["CodeOverview"]>(codeOf(product), { signal }),
  });
}

/** How far a look is; followed until it is over. The figures of all there is are not counted for that. */
export function useLook(product: string, look: Schemas["ScanReply"]) {
  return useQuery({
    queryKey: ["look", product, look.id],
    queryFn: ({ signal }) => ask<Schemas["ScanReply"]>(`${codeOf(product)}/scans/${look.id}`, { signal }),
    initialData: look,
    enabled: goesOn(look),
    refetchInterval: (now) => (goesOn(now.state.data) ? POLL_MS : false),
  });
}

/** One list, page after page; `after` says in the address where the next page begins. */
export function useFound<Row>(product: string, list: string, query: string, after: (last: Row) => string) {
  return useInfiniteQuery({
    queryKey: [CODE, product, list, query],
    queryFn: ({ pageParam, signal }) => ask<Row[]>(`${codeOf(product)}/${list}?${query}${pageParam}`, { signal }),
    initialPageParam: "",
    getNextPageParam: (page: Row[]) => {
      const last = page.at(-1);
      return page.length === PAGE && last ? `&${after(last)}` : undefined;
    },
  });
}

/** What is chosen of a list, kept to what is shown. */
export function chosenOf<Id>(chosen: ReadonlySet<Id>, shown: readonly Id[]): Id[] {
  return shown.filter((id) => chosen.has(id));
}

/** The chosen ones with one more or one less; with `until`, all between the last one and this one. */
export function toggled<Id>(chosen: ReadonlySet<Id>, shown: readonly Id[], id: Id, until: Id | null): Set<Id> {
  const next = new Set(chosen);
  const on = !chosen.has(id);
  const from = until === null ? -1 : shown.indexOf(until);
  const to = shown.indexOf(id);
  const [first, last] = from < 0 ? [to, to] : [Math.min(from, to), Math.max(from, to)];
  for (const one of shown.slice(first, last + 1)) {
    if (on) next.add(one);
    else next.delete(one);
  }
  return next;
}

/** Words for a key that the code has no text for: the last part of its name, to begin with. */
export function wordsFor(key: string): string {
  const last = key.split(/[.:/]/).at(-1) ?? key;
  const words = last
    .replace(/[-_]+/g, " ")
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
