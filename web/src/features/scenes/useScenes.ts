import { useQueries, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { ask, type Schemas } from "../../api/client";
import { atMostEvery, useLive } from "../../live/live";

const SCENES = "scenes";
/** What was set so short a time ago on this page is not set again, unless something changed, which is told live. */
const FRESH = { staleTime: 10_000, refetchOnMount: "always" } as const;

/** The scenes of a product. */
export function useScenes(product: string) {
  return useQuery({
    queryKey: [SCENES, product, "all"],
    queryFn: ({ signal }) => ask<Schemas["SceneReply"][]>(`/api/products/${product}/scenes`, { signal }),
    enabled: product !== "",
  });
}

/** A scene as it is played; what is asked for stands in `query` as in the address of the page. */
export function usePlayed(product: string, scene: number | undefined, query: string, retry = true) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: [SCENES, product, scene, query],
    queryFn: ({ signal }) => ask<Schemas["Played"]>(`/api/products/${product}/scenes/${scene}?${query}`, { signal }),
    enabled: scene !== undefined && product !== "",
    ...FRESH,
    // Until it is there: the languages as they are elsewhere on the page, or the scene as it was. Another scene is not shown for this one.
    placeholderData: (before, asked) =>
      elsewhere(queries, product, scene, query) ?? (asked?.queryKey[2] === scene ? before : undefined),
    ...(retry ? {} : { retry: false }),
  });
}

/** A scene in languages in which it was set already, each with others; undefined where one of them is not there. */
function elsewhere(queries: QueryClient, product: string, scene: number | undefined, query: string) {
  const tags = new URLSearchParams(query).getAll("in");
  if (tags.length === 0 || !plainly(query)) return undefined;
  const there = queries
    .getQueriesData<Schemas["Played"]>({ queryKey: [SCENES, product, scene] })
    .flatMap(([[, , , of], data]) => (data && plainly(String(of)) ? [data] : []));
  const stages = tags.map((tag) => there.flatMap((one) => one.stages).find(({ language }) => language === tag));
  const [first] = there;
  return first && stages.every((stage) => stage !== undefined) ? { ...first, stages } : undefined;
}

/** Whether nothing but languages was asked for. */
function plainly(query: string): boolean {
  return [...new URLSearchParams(query).keys()].every((name) => name === "in");
}

/** What is to be mended and minded in the scenes of a product, in all its languages. */
export function useFindings(product: string) {
  return useQuery({
    queryKey: [SCENES, product, "findings"],
    queryFn: ({ signal }) => ask<Schemas["SceneFindings"]>(`/api/products/${product}/scenes/findings`, { signal }),
    enabled: product !== "",
  });
}

/** As many languages as the server sets at once. */
const AT_ONCE = 4;

/**
 * Scenes in languages.
 *
 * @param wanted - numbers of scenes
 * @param now - false while they wait for something else
 * @returns the stages of each scene that are there already, in the order of the languages
 */
export function useManyPlayed(product: string, wanted: number[], languages: string[], now = true) {
  const parts = wanted.flatMap((scene) =>
    Array.from({ length: Math.ceil(languages.length / AT_ONCE) }, (_, at) => {
      const query = new URLSearchParams(
        languages.slice(at * AT_ONCE, (at + 1) * AT_ONCE).map((tag) => ["in", tag]),
      ).toString();
      return { scene, query };
    }),
  );
  const asked = useQueries({
    queries: parts.map(({ scene, query }) => ({
      queryKey: [SCENES, product, scene, query],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask<Schemas["Played"]>(`/api/products/${product}/scenes/${scene}?${query}`, { signal }),
      enabled: product !== "" && now,
      ...FRESH,
    })),
  });
  const all = asked.flatMap(({ data }) => (data ? data.stages.map((stage) => ({ scene: data, stage })) : []));
  return {
    all,
    waiting: asked.some(({ isPending }) => isPending) && parts.length > 0,
    failure: asked.find(({ error }) => error)?.error ?? null,
  };
}

/** Reads scenes again when anything changes, here or elsewhere. */
export function useScenesFollow(): () => void {
  const queries = useQueryClient();
  const again = useMemo(() => () => void queries.invalidateQueries({ queryKey: [SCENES] }), [queries]);
  useLive(useMemo(() => atMostEvery(300, again), [again]));
  // Nobody listened before.
  useEffect(() => void queries.invalidateQueries({ queryKey: [SCENES], refetchType: "none" }), [queries]);
  return again;
}
