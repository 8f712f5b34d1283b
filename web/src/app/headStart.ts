import type { QueryClient } from "@tanstack/react-query";
import { PRODUCTS, TABLES, entriesOf } from "../scope/queries";
import { readScope, writeScope } from "../scope/scope";
import { wasHere } from "../session/useSession";

/** What was asked for ahead is kept as long for the screen that is to come. */
const KEPT_MS = 5_000;

/** Asks for what the first screen needs while it is still asked who is signed in; nothing where nobody was. */
export function headStart(queries: QueryClient, at: Pick<Location, "pathname" | "search">): void {
  if (!wasHere()) return;
  void queries.prefetchQuery(TABLES);
  void queries.prefetchQuery(PRODUCTS);
  const scope = readScope(new URLSearchParams(at.search));
  if (at.pathname !== "/ledger" || scope.languages.length === 0) return;
  void queries.prefetchQuery({ ...entriesOf(writeScope(scope)), gcTime: KEPT_MS });
}
