import { Alert, Button, CircularProgress } from "@mui/material";
import { sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { OfferShown } from "./OfferShown";
import type { useOffers } from "./useOffers";
import "./offers.css";

interface Props {
  offers: ReturnType<typeof useOffers>;
  languages: Schemas["LanguageReply"][];
  mine: boolean;
}

/** Offers with what became of them, the newest first. */
export function OfferList({ offers, languages, mine }: Props) {
  if (offers.isError && !offers.data) {
    return (
      <Alert severity="error" action={<Button onClick={() => void offers.refetch()}>{t("retry")}</Button>}>
        {sentenceOf(offers.error)}
      </Alert>
    );
  }
  if (!offers.data) return <CircularProgress size={22} aria-label={t("ledger.loading")} />;
  const lines = offers.data.pages.flatMap((page) => page.offers);
  if (lines.length === 0) return <p className="soft">{t("offers.none")}</p>;
  return (
    <>
      <ul className="offerlines">
        {lines.map((line) => (
          <OfferShown
            key={line.offer}
            line={line}
            language={languages.find((kept) => kept.language.tag === line.language)?.language}
            mine={mine}
          />
        ))}
      </ul>
      {offers.hasNextPage && (
        <Button disabled={offers.isFetchingNextPage} onClick={() => void offers.fetchNextPage()}>
          {t("offers.more")}
        </Button>
      )}
    </>
  );
}
