import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { goesOn } from "../../api/run";

export type AssetSet = Schemas["AssetSetReply"];
export type AssetFile = Schemas["AssetFileReply"];
export type AssetOptions = Schemas["AssetSetOptions"];
export type AssetChoice = Schemas["AssetChoice"];

/** What is decided, of the set as it is when that is sent: other decisions may be on their way. */
export interface Decision {
  options?: (now: AssetOptions, set: AssetSet) => Partial<AssetOptions>;
  files?: (now: AssetFile[]) => AssetChoice[];
}

const POLL_MS = 400;

/** Makes a set of the pictures and sounds among files that came together; its number. */
export async function makeAssetSet(drop: number, table?: string): Promise<number> {
  const into = table === undefined ? "" : `&table=${encodeURIComponent(table)}`;
  return (await ask<AssetSet>(`/api/asset-sets?drop=${drop}${into}`, { method: "POST" })).id;
}

/** A set of pictures and sounds, and what can be decided about it. While it is looked through it is asked for again and again. */
export function useAssetSet(id: number) {
  const queries = useQueryClient();
  const key = ["asset-set", id];
  const path = `/api/asset-sets/${id}`;
  const set = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask<AssetSet>(path, { signal }),
    refetchInterval: (query) => (goesOn(query.state.data?.run) ? POLL_MS : false),
  });
  const known = () => queries.getQueryData<AssetSet>(key);
  const decide = useMutation({
    // Leaving a field by clicking another decides twice; the second waits for the first, and is decided about what that left.
    scope: { id: `asset-set ${id}` },
    mutationFn: ({ options, files }: Decision) => {
      const now = known();
      if (!now) return Promise.reject(new Error());
      return ask<AssetSet>(path, {
        method: "PUT",
        json: {
          version: now.version,
          options: { ...now.options, ...options?.(now.options, now) },
          files: files?.(now.files) ?? [],
        },
      });
    },
    onSuccess: (reply) => queries.setQueryData(key, reply),
    onError: () => void queries.invalidateQueries({ queryKey: key }),
  });
  const compare = useMutation({
    scope: { id: `asset-set ${id}` },
    mutationFn: () =>
      ask<Schemas["AssetIntakeReply"]>(`${path}/intake?version=${known()?.version ?? 0}`, { method: "POST" }),
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  });
  return { set, decide, compare };
}
