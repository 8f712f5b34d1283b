import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { entriesOf } from "../../scope/queries";
import { Entries } from "../../sheet/entries";
import { RowStore } from "../../sheet/rowStore";
import { writeScope, type Scope } from "../../scope/scope";

type Table = Schemas["TableReply"];

/** The entries of a scope and a store for its rows; both stay until the scope, or `onFailure`, changes. */
export function useScopeEntries(scope: Scope, tables: Table[], onFailure: (failure: unknown) => void) {
  const address = writeScope(scope);
  const query = useQuery({ ...entriesOf(address), enabled: scope.languages.length > 0 && tables.length > 0 });
  const languages = scope.languages.join(",");
  const names = tables.length > 1 ? JSON.stringify(tables.map((table) => [table.slug, table.name])) : "[]";
  const opened = useMemo(() => {
    if (!query.data) return null;
    const store = new RowStore(languages.split(","), onFailure);
    return { entries: Entries.of(query.data, new Map(JSON.parse(names) as [string, string][])), store };
  }, [query.data, languages, names, onFailure]);
  return { query, opened };
}
