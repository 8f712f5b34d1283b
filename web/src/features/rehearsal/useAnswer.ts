import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import type { How } from "./playing";

/** The language that a product answers with, and the steps by which it was found. */
export function useAnswer(product: Schemas["ProductReply"] | undefined, asked: { how: How; asked: string } | null) {
  const slug = product?.slug ?? "";
  return useQuery({
    queryKey: ["products", slug, "answer", product?.version ?? 0, asked?.how, asked?.asked],
    queryFn: ({ signal }) => {
      const query = new URLSearchParams({ how: asked?.how ?? "", asked: asked?.asked ?? "" });
      return ask<Schemas["AnswerReply"]>(`/api/products/${slug}/answer?${query.toString()}`, { signal });
    },
    enabled: slug !== "" && asked !== null && (product?.languages.length ?? 0) > 0,
    // It hangs on nothing but the product, whose version is part of the key.
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    retry: false,
  });
}
