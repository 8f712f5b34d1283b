import { useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { placesKey } from "./places";
import "./code.css";

/** The places in code that use an entry; each opens to what stands on its line. */
export function CodePlaces({ entry }: { entry: number }) {
  const places = useQuery({
    queryKey: placesKey(entry),
    queryFn: ({ signal }) => ask<Schemas["CodePlace"][]>(`/api/entries/${entry}/code`, { signal }),
    staleTime: 30_000,
    retry: false,
  });
  if (!places.data || places.data.length === 0) return null;
  return (
    <section className="codeplaces" aria-label={t("code.usedIn")}>
      <p className="soft">{t("code.usedAt", { n: places.data.length })}</p>
      {places.data.map((one, at) => (
        <details key={`${one.product} ${one.path} ${one.line} ${at}`}>
          <summary>
            <bdi className="place">
              {one.path}:{one.line}
            </bdi>{" "}
            <small>
              {one.productName}
              {one.how !== "used" && ` · ${t(`code.how.${one.how as "maybe"}`)}`}
            </small>
          </summary>
          <code dir="ltr">{one.around}</code>
        </details>
      ))}
    </section>
  );
}
