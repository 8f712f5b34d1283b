import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { loadFontFor } from "../../theme/fonts";
import { keysSaid } from "../../words/keys";
import { percent, t } from "../../words/words";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { reviewsIn, type Person } from "../../session/useSession";
import { ReviewLine } from "./ReviewLine";
import { Strips } from "./Strips";
import { readLooking, useReview, writeLooking, type Looking } from "./useReview";
import "../../parts/selection.css";
import "./review.css";

/** Review: what contributors offered in a language, judged strip by strip with S, A and R, or several at once. */
export function ReviewPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const tables = useTables();
  const languages = languagesOf(tables.data ?? []);
  const mine = languages.find(({ language, states }) => reviewsIn(me, language.tag) && (states.offered ?? 0) > 0);
  const looking = readLooking(query, (mine ?? languages[0])?.language.tag ?? "");
  const look = (part: Partial<Looking>) => setQuery(writeLooking({ ...looking, ...part }));
  const kept = languages.find(({ language }) => language.tag === looking.language);
  const [said, setSaid] = useState<string | null>(null);
  const say = useCallback((sentence: string) => setSaid(sentence), []);
  const review = useReview(looking, say);
  useEffect(() => {
    if (kept) loadFontFor(kept.language.script);
  });
  const failure = tables.data ? (review.query.data ? null : review.query.error) : tables.error;
  const { contributors, matching } = review;
  return (
    <Frame
      title={
        tables.data && (
          <ReviewLine
            tables={tables.data}
            languages={languages}
            contributors={contributors}
            looking={looking}
            onLook={look}
          />
        )
      }
      aside={review.query.data && <span>{t("review.waiting", { n: matching })}</span>}
    >
      {failure ? (
        <div className="empty">
          <Alert severity="error" action={<Button onClick={() => void review.query.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(failure)}
          </Alert>
        </div>
      ) : !kept || !review.query.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <div className="review">
          <aside className="contributors" aria-label={t("review.contributors")} tabIndex={0}>
            {contributors.map((one) => (
              <button
                key={one.id}
                type="button"
                aria-pressed={looking.person === one.id}
                onClick={() => look({ person: looking.person === one.id ? 0 : one.id })}
              >
                <b>{one.name}</b>
                <span>{t("review.waits", { n: one.waiting })}</span>
                <small>{settledShare(one)}</small>
              </button>
            ))}
            {looking.person !== 0 && (
              <p>
                <Link to={`/people/${looking.person}?in=${looking.language}`}>{t("review.theirPage")}</Link>
              </p>
            )}
            <p className="soft">{t("review.hint")}</p>
            {reviewsIn(me, looking.language) && (
              <Button size="small" onClick={() => void review.undo(false)}>
                {t("offers.undo")} <kbd>{keysSaid("Ctrl+Z")}</kbd>
              </Button>
            )}
          </aside>
          <Strips
            key={writeLooking(looking)}
            language={kept.language}
            reviews={reviewsIn(me, looking.language)}
            looking={looking}
            review={review}
            onSay={say}
          />
        </div>
      )}
      <Snackbar open={said !== null} autoHideDuration={9000} onClose={() => setSaid(null)}>
        <Alert severity="info" onClose={() => setSaid(null)}>
          {said}
        </Alert>
      </Snackbar>
    </Frame>
  );
}

function settledShare({ settled, amended, returned }: Schemas["Contributor"]): string {
  const answered = settled + returned;
  return answered === 0
    ? t("review.noAnswers")
    : t("review.share", { share: percent((100 * settled) / answered), of: answered, amended });
}
