import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask, type Schemas } from "../../api/client";
import { Entries } from "./entries";
import { RowStore } from "./rowStore";
import { writeScope, type Scope } from "./scope";
import { unsaved } from "./unsaved";

/** All tables with their counters. */
export function useTables() {
  return useQuery({
    queryKey: ["tables"],
    queryFn: ({ signal }) => ask<Schemas["TableReply"][]>("/api/tables", { signal }),
    staleTime: 5_000,
  });
}

/** The entries of a scope and a store for its rows; both stay until the scope, or `onFailure`, changes. */
export function useScopeEntries(scope: Scope, onFailure: (failure: unknown) => void) {
  const address = writeScope({ ...scope, table: "" });
  const query = useQuery({
    queryKey: ["scope", scope.table, address],
    queryFn: ({ signal }) =>
      ask<Schemas["ScopeReply"]>(`/api/tables/${encodeURIComponent(scope.table)}/scope?${address}`, { signal }),
    enabled: scope.table !== "" && scope.languages.length > 0,
    // Rows must not jump away while one works on them: the scope is read again only when asked for.
    staleTime: Infinity,
    gcTime: 0,
  });
  const languages = scope.languages.join(",");
  const opened = useMemo(() => {
    if (!query.data) return null;
    const store = new RowStore(scope.table, languages.split(","), onFailure);
    for (const kept of unsaved.all()) {
      store.setPending(kept.entry, kept.language, { text: kept.text, status: "failed" });
    }
    return { entries: new Entries(query.data), store };
  }, [query.data, scope.table, languages, onFailure]);
  return { query, opened };
}
