import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask, type Schemas } from "../../api/client";
import { Entries } from "../../sheet/entries";
import { RowStore } from "../../sheet/rowStore";
import { writeScope, type Scope } from "../../scope/scope";

type Table = Schemas["TableReply"];

/** The entries of a scope and a store for its rows; both stay until the scope, or `onFailure`, changes. */
export function useScopeEntries(scope: Scope, tables: Table[], onFailure: (failure: unknown) => void) {
  const address = writeScope(scope);
  const query = useQuery({
    queryKey: ["scope", address],
    queryFn: ({ signal }) => ask<Schemas["ScopeReply"]>(`/api/scope?${address}`, { signal }),
    enabled: scope.languages.length > 0 && tables.length > 0,
    // Rows must not jump away while one works on them: the scope is read again only when asked for.
    staleTime: Infinity,
    gcTime: 0,
  });
  const languages = scope.languages.join(",");
  const names = tables.length > 1 ? JSON.stringify(tables.map((table) => [table.slug, table.name])) : "[]";
  const opened = useMemo(() => {
    if (!query.data) return null;
    const store = new RowStore(languages.split(","), onFailure);
    return { entries: Entries.of(query.data, new Map(JSON.parse(names) as [string, string][])), store };
  }, [query.data, languages, names, onFailure]);
  return { query, opened };
}
