import { keepPreviousData, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask, type Schemas } from "../../api/client";
import { atMostEvery, useLive } from "../../live/live";

const SCENES = "scenes";

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
  return useQuery({
    queryKey: [SCENES, product, scene, query],
    queryFn: ({ signal }) => ask<Schemas["Played"]>(`/api/products/${product}/scenes/${scene}?${query}`, { signal }),
    enabled: scene !== undefined && product !== "",
    placeholderData: keepPreviousData,
    ...(retry ? {} : { retry: false }),
  });
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
 * @returns the stages of each scene that are there already, in the order of the languages
 */
export function useManyPlayed(product: string, wanted: number[], languages: string[]) {
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
      enabled: product !== "",
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
  return again;
}
