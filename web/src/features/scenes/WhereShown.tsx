import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { StageShown } from "./StageShown";
import { usePlayed } from "./useScenes";

/** The scenes that show an entry: the first as a small picture with the place lit, all as links. */
export function WhereShown({ entry, language }: { entry: number; language: string }) {
  const shown = useQuery({
    queryKey: ["scenes", "of", entry],
    queryFn: ({ signal }) => ask<Schemas["ShownOn"][]>(`/api/entries/${entry}/scenes`, { signal }),
    staleTime: 30_000,
    retry: false,
  });
  const first = shown.data?.[0];
  if (!first) return null;
  const at = (one: Schemas["ShownOn"]) =>
    `/rehearsal/${one.product}/${one.scene}?in=${language}&at=${one.place}${chosenFor(one)}`;
  return (
    <section className="whereshown" aria-label={t("scenes.where")}>
      <p className="soft">
        {t("scenes.usedOn", { n: shown.data?.length ?? 0 })}{" "}
        {shown.data?.map((one, i) => (
          <span key={`${one.product} ${one.scene}`}>
            {i > 0 && ", "}
            <Link to={at(one)}>{one.name}</Link>
          </span>
        ))}
      </p>
      <SmallStage shown={first} language={language} to={at(first)} />
    </section>
  );
}

/** One entry of a list is only seen where it is chosen. */
function chosenFor({ place, listed }: Schemas["ShownOn"]): string {
  return listed ? `&choose=${place}%3D${encodeURIComponent(listed)}` : "";
}

/** Languages that the product does not have are refused, and nothing is shown then: the links say what there is. */
function SmallStage({ shown, language, to }: { shown: Schemas["ShownOn"]; language: string; to: string }) {
  const played = usePlayed(shown.product, shown.scene, `in=${language}${chosenFor(shown)}`, false);
  const stage = played.data?.stages[0];
  if (!played.data || !stage) return null;
  return (
    <Link to={to} aria-label={t("scenes.open", { scene: shown.name })} className="smallstage">
      <StageShown
        product={shown.product}
        scene={played.data}
        stage={stage}
        chosen={shown.place}
        caption={<b>{shown.name}</b>}
      />
    </Link>
  );
}
