import { Alert, Button } from "@mui/material";
import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Losing } from "../../parts/Losing";
import { useSettled } from "../../parts/useSettled";
import { nameOfTag, t } from "../../words/words";
import type { Settings } from "./useDeliveries";

interface Props {
  slug: string;
  settings: Settings;
}

/** What the recipe would make, from the first entries of each table, and what its files would not hold. */
export function RecipeExamples({ slug, settings }: Props) {
  const settled = useSettled(settings);
  const address = `/api/products/${encodeURIComponent(slug)}/recipes`;
  const example = useQuery({
    queryKey: ["recipe-example", slug, settled],
    queryFn: ({ signal }) =>
      ask<Schemas["RecipeExample"][]>(`${address}/example`, { method: "POST", json: settled, signal }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const texts = settings.kind === "texts" && settings.files !== "place";
  return (
    <div className="examples" role="region" aria-label={t("recipe.example")} tabIndex={0}>
      <h3>{t("recipe.example")}</h3>
      {texts && <Look address={`${address}/losses`} settings={settled} />}
      {example.error && <p className="wrong">{sentenceOf(example.error)}</p>}
      {!example.error &&
        (example.data ?? []).map((one) => (
          <div key={one.path}>
            <b className="mono">{one.path}</b>
            <pre>{one.begins || t("recipe.notText")}</pre>
          </div>
        ))}
      {!example.error && example.data?.length === 0 && <p className="soft">{t("recipe.nothing")}</p>}
    </div>
  );
}

/** Looks at every text when asked to: that takes as long as making the files. */
function Look({ address, settings }: { address: string; settings: Settings }) {
  const { mutate, reset, data, error, isPending } = useMutation({
    mutationFn: () => ask<Schemas["LanguageLosses"][]>(address, { method: "POST", json: settings }),
  });
  // What was found holds for the recipe that was looked at.
  useEffect(() => reset(), [reset, settings]);
  return (
    <section>
      <Button
        variant="outlined"
        size="small"
        disabled={isPending}
        title={t("recipe.lookWords")}
        onClick={() => mutate()}
      >
        {t(isPending ? "recipe.looking" : "recipe.look")}
      </Button>
      <div role="status">
        {error && <Alert severity="error">{sentenceOf(error)}</Alert>}
        {data?.length === 0 && <Alert severity="success">{t("recipe.holdsAll")}</Alert>}
        {data?.map((one) => (
          <div key={one.language}>
            <h4>{nameOfTag(one.language)}</h4>
            <Losing {...one} />
          </div>
        ))}
      </div>
    </section>
  );
}
