import { Alert, Button, CircularProgress } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, findingSaid, mendSaid, sentenceOf, type Schemas } from "../../api/client";
import { later } from "../../parts/later";
import { ledgerAt } from "../../scope/scope";
import { reviewsIn, type Person } from "../../session/useSession";
import { useUndoKey } from "./useUndoKey";
import { inOrder, MAIN, type Forms } from "../../text/shapes";
import { spotsIn } from "../../text/spots";
import { TextShown } from "../../text/TextShown";
import { t } from "../../words/words";
import { mendCells, mendedSaid } from "./mending";
import { FINDINGS, useMends, usePlaces } from "./useFindings";

const MendDialog = later(async () => (await import("./MendDialog")).MendDialog);
const RightDialog = later(async () => (await import("./RightDialog")).RightDialog);

interface Props {
  me: Person;
  scope: string;
  kind: string;
  languages: Schemas["LanguageReply"][];
  /** Says what was done, with the change's number when it can be undone. */
  onSay: (words: string, change?: number) => void;
}

/** The texts with a finding of one kind, each with what is wrong and what mends it; below, what can be mended in one go. */
export function PlaceList({ me, scope, kind, languages, onSay }: Props) {
  const places = usePlaces(scope, kind);
  const mends = useMends(scope, kind);
  const queries = useQueryClient();
  const [mending, setMending] = useState(false);
  const [right, setRight] = useState<Schemas["FindingPlace"] | null>(null);
  const [busy, setBusy] = useState(false);
  const pages = places.data?.pages ?? [];
  const shown = pages.flatMap((page) => page.places);
  const excepted = pages[0]?.right ?? [];
  const sure = mends.data?.texts ?? [];
  const again = () => void queries.invalidateQueries({ queryKey: [FINDINGS] });
  const keep = useUndoKey(onSay, again);
  const carryOut = async (texts: Schemas["MendedText"][]) => {
    setBusy(true);
    try {
      const done = await mendCells(texts);
      if (done.changed > 0) keep(done.change);
      onSay(mendedSaid(done, texts.length), done.changed > 0 ? done.change : undefined);
    } catch (failure) {
      onSay(sentenceOf(failure));
    } finally {
      setBusy(false);
      again();
    }
  };
  const takeBack = (place: Schemas["FindingPlace"]) => {
    ask(`/api/entries/${place.entry}/cells/${encodeURIComponent(place.language)}/exceptions/${kind}`, {
      method: "DELETE",
    })
      .catch((failure: unknown) => onSay(sentenceOf(failure)))
      .finally(again);
  };
  return (
    <section className="places" aria-label={t("checks.places")} tabIndex={0}>
      {places.isError && !places.data ? (
        <Alert severity="error" action={<Button onClick={() => void places.refetch()}>{t("retry")}</Button>}>
          {sentenceOf(places.error)}
        </Alert>
      ) : !places.data ? (
        <div className="empty" role="status">
          <CircularProgress size={22} aria-label={t("ledger.loading")} />
        </div>
      ) : (
        <>
          {shown.length + excepted.length === 0 && <p className="soft none">{t("checks.noneOfKind")}</p>}
          <ul>
            {[...shown, ...excepted].map((place) => (
              <PlaceShown
                key={`${place.entry} ${place.language}`}
                place={place}
                languages={languages}
                busy={busy}
                onMend={(form, mended) =>
                  void carryOut([
                    {
                      entry: place.entry,
                      table: place.table,
                      key: place.key,
                      language: place.language,
                      version: place.version,
                      settled: place.settled,
                      before: place.text,
                      after: { ...place.text, [form]: mended },
                      labels: [],
                    },
                  ])
                }
                onRight={reviewsIn(me, place.language) && (!place.ofSource || me.coordinator) ? setRight : undefined}
                onTakeBack={reviewsIn(me, place.language) ? takeBack : undefined}
              />
            ))}
          </ul>
          {places.hasNextPage && (
            <Button disabled={places.isFetchingNextPage} onClick={() => void places.fetchNextPage()}>
              {t("checks.more")}
            </Button>
          )}
        </>
      )}
      {shown.length > 0 && mends.data && (
        <footer>
          <p>
            {sure.length > 0 ? (
              <>
                <b>{t("checks.sure", { n: sure.length, of: mends.data.looked })}</b>{" "}
                <span className="soft">{t("checks.sureWords")}</span>
              </>
            ) : (
              t("checks.sureNone")
            )}
          </p>
          {sure.length > 0 && (
            <Button variant="contained" disabled={busy} onClick={() => setMending(true)}>
              {t("checks.look", { n: sure.length })}
            </Button>
          )}
        </footer>
      )}
      {mending && (
        <MendDialog
          texts={sure}
          languages={languages}
          onDone={(texts) => {
            setMending(false);
            if (texts.length > 0) void carryOut(texts);
          }}
        />
      )}
      {right && (
        <RightDialog
          place={right}
          kind={kind}
          onDone={() => {
            setRight(null);
            again();
          }}
        />
      )}
    </section>
  );
}

interface PlaceProps {
  place: Schemas["FindingPlace"];
  languages: Schemas["LanguageReply"][];
  busy: boolean;
  onMend: (form: string, mended: string) => void;
  onRight?: (place: Schemas["FindingPlace"]) => void;
  onTakeBack?: (place: Schemas["FindingPlace"]) => void;
}

function PlaceShown({ place, languages, busy, onMend, onRight, onTakeBack }: PlaceProps) {
  const language = languages.find((one) => one.language.tag === place.language)?.language;
  const at = ledgerAt({
    tables: [place.table],
    languages: place.ofSource ? languages.slice(0, 1).map((one) => one.language.tag) : [place.language],
    words: place.key,
  });
  const plain = place.shape === "plain";
  return (
    <li>
      <div className="of">
        <Link to={at} className="key" title={t("checks.open")}>
          {place.key}
        </Link>
        <FormLines forms={place.source} findings={place.ofSource ? place.findings : []} />
      </div>
      <div className="said">
        {!place.ofSource && (
          <div className="text">
            <span className="tag">{place.language}</span>{" "}
            <FormLines
              forms={place.text}
              findings={place.findings}
              lang={place.language}
              rightToLeft={language?.rightToLeft}
            />
          </div>
        )}
        {place.findings.map((finding, n) => (
          <p key={n} className={finding.severity === "blocker" ? "wrong" : "mind"}>
            {findingSaid(finding, !plain)}
          </p>
        ))}
      </div>
      <div className="todo">
        {place.right ? (
          <>
            <p className="soft">{t("checks.rightSaid", { reason: place.right })}</p>
            <small className="soft">{t("checks.rightBy", { name: place.by ?? "" })}</small>
            {onTakeBack && (
              <Button size="small" onClick={() => onTakeBack(place)}>
                {t("checks.takeBack")}
              </Button>
            )}
          </>
        ) : (
          <>
            {place.findings.map(
              (finding, n) =>
                finding.mend &&
                !place.ofSource && (
                  <Button
                    key={n}
                    size="small"
                    variant="outlined"
                    disabled={busy}
                    onClick={() => onMend(finding.form, finding.mended ?? "")}
                  >
                    {mendSaid(finding)}
                  </Button>
                ),
            )}
            {onRight && (
              <Button size="small" disabled={busy} onClick={() => onRight(place)}>
                {t("checks.right")}
              </Button>
            )}
          </>
        )}
      </div>
    </li>
  );
}

interface FormLinesProps {
  forms: Forms;
  findings?: Schemas["FindingReply"][];
  lang?: string;
  rightToLeft?: boolean;
}

function FormLines({ forms, findings = [], lang, rightToLeft = false }: FormLinesProps) {
  const lines = inOrder(forms);
  const dir = rightToLeft ? "rtl" : "ltr";
  if (lines.length <= 1) {
    return (
      <span lang={lang} dir={dir}>
        <TextShown text={forms[MAIN] ?? lines[0]?.[1] ?? ""} spots={spotsIn(findings, lines[0]?.[0] ?? MAIN)} />
      </span>
    );
  }
  return (
    <span className="forms">
      {lines.map(([form, text]) => (
        <span key={form} lang={lang} dir={dir}>
          <small>{form}</small> <TextShown text={text} spots={spotsIn(findings, form)} />
        </span>
      ))}
    </span>
  );
}
