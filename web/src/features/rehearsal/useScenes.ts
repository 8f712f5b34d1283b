import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
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
export function usePlayed(product: string, scene: number | undefined, query: string) {
  return useQuery({
    queryKey: [SCENES, product, scene, query],
    queryFn: ({ signal }) => ask<Schemas["Played"]>(`/api/products/${product}/scenes/${scene}?${query}`, { signal }),
    enabled: scene !== undefined,
    placeholderData: keepPreviousData,
  });
}

/** Reads scenes again when anything changes, here or elsewhere. */
export function useScenesFollow(): () => void {
  const queries = useQueryClient();
  const again = useMemo(() => () => void queries.invalidateQueries({ queryKey: [SCENES] }), [queries]);
  useLive(useMemo(() => atMostEvery(300, again), [again]));
  return again;
}
