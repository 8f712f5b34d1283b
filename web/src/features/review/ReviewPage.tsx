import { Alert, Button, CircularProgress, List, ListItemButton, ListItemText, Snackbar } from "@mui/material";
import { useCallback, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../app/Frame";
import { loadFontFor } from "../../theme/fonts";
import { t } from "../../words/words";
import { Draft } from "../ledger/draft";
import { Picker } from "../ledger/ScopeLine";
import { languagesOf } from "../ledger/scopeTables";
import { MAIN, sameForms, type Forms } from "../ledger/shapes";
import { useTables } from "../ledger/useLedger";
import type { Person } from "../session/useSession";
import { ReturnDialog } from "./ReturnDialog";
import { formsOfStrip, StripShown } from "./StripShown";
import { useReview, writeLooking, type Looking, type Strip } from "./useReview";
import "../ledger/selection.css";
import "./review.css";

/** Review: what contributors offered in a language, judged strip by strip with S, A and R, or several at once. */
export function ReviewPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const tables = useTables();
  const languages = languagesOf(tables.data ?? []);
  const mine = languages.find(({ language, states }) => reviewsIn(me, language.tag) && (states.offered ?? 0) > 0)
    ?.language.tag;
  const asked = (query.get("in") ?? "").split(",")[0] ?? "";
  const looking: Looking = {
    language: asked || (mine ?? languages[0]?.language.tag ?? ""),
    tables: (query.get("table") ?? "").split(",").filter((slug) => slug !== ""),
    person: Number(query.get("person")) || 0,
    newest: query.get("newest") === "true",
  };
  const look = (part: Partial<Looking>) => setQuery(writeLooking({ ...looking, ...part }));
  const kept = languages.find(({ language }) => language.tag === looking.language);
  const [said, setSaid] = useState<string | null>(null);
  const say = useCallback((sentence: string) => setSaid(sentence), []);
  const review = useReview(looking, say);
  useEffect(() => {
    if (kept) loadFontFor(kept.language.script);
  });
  const failure = tables.data ? (review.query.data ? null : review.query.error) : tables.error;
  const { contributors = [], waiting = 0 } = review.query.data ?? {};
  return (
    <Frame
      me={me}
      title={
        tables.data && (
          <h1 className="scopeline">
            {t("review.reviewing")} <TablePicker tables={tables.data} chosen={looking.tables} onLook={look} />{" "}
            {t("scope.in")} <LanguagePicker languages={languages} looking={looking} onLook={look} />,{" "}
            {t("review.offeredBy")} <PersonPicker contributors={contributors} person={looking.person} onLook={look} />,{" "}
            <button type="button" className="picker" onClick={() => look({ newest: !looking.newest })}>
              {t(looking.newest ? "review.newest" : "review.oldest")}
            </button>
          </h1>
        )
      }
      aside={review.query.data && <span>{t("review.waiting", { n: waiting })}</span>}
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
            <p className="soft">{t("review.hint")}</p>
          </aside>
          <Strips
            key={writeLooking(looking)}
            language={kept.language}
            reviews={reviewsIn(me, looking.language)}
            review={review}
            onSay={say}
          />
        </div>
      )}
      <Snackbar open={said !== null} autoHideDuration={9000} onClose={() => setSaid(null)}>
        <Alert severity="warning" onClose={() => setSaid(null)}>
          {said}
        </Alert>
      </Snackbar>
    </Frame>
  );
}

interface StripsProps {
  language: Schemas["LanguageName"];
  reviews: boolean;
  review: ReturnType<typeof useReview>;
  onSay: (sentence: string) => void;
}

/** The strips with one under the cursor; the next is there as soon as one is answered. */
function Strips({ language, reviews, review, onSay }: StripsProps) {
  const { strips } = review;
  const [at, setAt] = useState(0);
  const [anchor, setAnchor] = useState(0);
  const [amending, setAmending] = useState<{ offer: number; draft: Draft } | null>(null);
  const [returning, setReturning] = useState<Strip[] | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const here = Math.min(at, strips.length - 1);
  const from = Math.min(here, anchor, strips.length - 1);
  const to = Math.min(Math.max(here, anchor), strips.length - 1);
  const current = strips[here];
  const chosen = strips.slice(from, to + 1);
  const currentOffer = current?.offer;
  useEffect(() => {
    if (amending || returning || currentOffer === undefined) return;
    const strip = document.getElementById(`offer-${currentOffer}`);
    strip?.focus({ preventScroll: true });
    strip?.scrollIntoView({ block: "nearest" });
  }, [currentOffer, amending, returning]);
  const move = (by: number, extend: boolean) => {
    const next = Math.max(0, Math.min(strips.length - 1, here + by));
    setAt(next);
    if (!extend) setAnchor(next);
  };
  const answered = () => {
    setAt(from);
    setAnchor(from);
  };
  const settle = () => {
    const sound = chosen.filter((strip) => strip.blockers.length === 0);
    if (sound.length < chosen.length) onSay(t("review.blockedStay", { n: chosen.length - sound.length }));
    if (sound.length === 0) return;
    answered();
    void review.answer(onePerCell(sound), { action: "SETTLE" });
  };
  const amend = () => {
    if (current) setAmending({ offer: current.offer, draft: new Draft(formsOfStrip(current)) });
  };
  const amended = (strip: Strip, forms: Forms | null) => {
    setAmending(null);
    if (forms === null || Object.keys(forms).length === 0) return;
    answered();
    if (sameForms(forms, formsOfStrip(strip))) void review.answer([strip], { action: "SETTLE" });
    else void review.amend(strip, strip.shape === "plain" ? { text: forms[MAIN] } : { forms });
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    // What is typed in a dialog comes here too, as its element is a child of this one to React.
    if (amending || returning || event.altKey || !list.current?.contains(event.target as Node)) return;
    const ctrl = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (key === "arrowdown" || key === "arrowup") move(key === "arrowdown" ? 1 : -1, event.shiftKey);
    else if (key === "home" || key === "end") move(key === "home" ? -strips.length : strips.length, event.shiftKey);
    else if (key === "escape") setAnchor(here);
    else if (ctrl && key === "a") {
      setAnchor(0);
      setAt(strips.length - 1);
    } else if (ctrl && (key === "z" || key === "y")) {
      const redo = key === "y" || event.shiftKey;
      void review.undo(redo).then((done) => done || onSay(t(redo ? "undo.nothingAgain" : "undo.nothing")));
    } else if (ctrl || !reviews) return;
    else if (key === "s") settle();
    else if (key === "a") amend();
    else if (key === "r") setReturning(chosen);
    else return;
    event.preventDefault();
  };
  if (strips.length === 0) {
    return (
      <div className="empty">
        <h2>{t("review.nothing")}</h2>
        <p className="soft">{t("review.nothingWords", { language: language.englishName })}</p>
      </div>
    );
  }
  return (
    <div ref={list} className="strips" onKeyDown={onKeyDown} role="group" aria-label={t("review.strips")}>
      <div className="head" aria-hidden="true">
        <span>{t("review.headLeft", { language: language.englishName })}</span>
        <span>{t("review.headRight", { language: language.englishName })}</span>
      </div>
      {chosen.length > 1 && (
        <div className="selectionbar" role="toolbar" aria-label={t("review.several.bar")}>
          <span role="status">{t("review.chosen", { n: chosen.length })}</span>
          {reviews && (
            <>
              <Button size="small" variant="contained" onClick={settle}>
                {t("review.settleAll", { n: chosen.length })}
              </Button>
              <Button size="small" variant="outlined" color="error" onClick={() => setReturning(chosen)}>
                {t("review.returnAll", { n: chosen.length })}
              </Button>
            </>
          )}
        </div>
      )}
      {strips.map((strip, index) => (
        <StripShown
          key={strip.offer}
          strip={strip}
          language={language}
          current={index === here}
          chosen={chosen.length > 1 && index >= from && index <= to}
          refused={review.refused.get(strip.offer) ?? ""}
          reviews={reviews}
          amending={amending?.offer === strip.offer ? amending.draft : null}
          onPoint={(extend) => {
            if (amending?.offer === strip.offer) return;
            setAt(index);
            if (!extend) setAnchor(index);
          }}
          onSettle={settle}
          onAmend={amend}
          onReturn={() => setReturning(chosen)}
          onAmended={(forms) => amended(strip, forms)}
        />
      ))}
      {returning && (
        <ReturnDialog
          n={returning.length}
          onReturn={(reason) => {
            setReturning(null);
            answered();
            void review.answer(onePerCell(returning), { action: "RETURN", reason });
          }}
          onClose={() => setReturning(null)}
        />
      )}
    </div>
  );
}

/** A cell can be answered once in one go: of several offers for one, the first is answered and the others stay for a look of their own. */
function onePerCell(strips: Strip[]): Strip[] {
  return [...new Map([...strips].reverse().map((strip) => [strip.entry, strip])).values()].reverse();
}

function reviewsIn(me: Person, tag: string): boolean {
  return me.coordinator || me.levels[tag] === "reviewer";
}

function settledShare({ settled, amended, returned }: Schemas["Contributor"]): string {
  const answered = settled + returned;
  return answered === 0
    ? t("review.noAnswers")
    : t("review.share", { n: Math.round((100 * settled) / answered), of: answered, amended });
}

type Look = (part: Partial<Looking>) => void;

function TablePicker({ tables, chosen, onLook }: { tables: Schemas["TableReply"][]; chosen: string[]; onLook: Look }) {
  const names = chosen.map((slug) => tables.find((one) => one.slug === slug)?.name ?? slug);
  return (
    <Picker label={t("scope.table")} words={names.length ? names.join(", ") : t("scope.everyTable")}>
      {(close) => (
        <List dense>
          {[{ slug: "", name: t("scope.everyTable") }, ...tables].map(({ slug, name }) => (
            <ListItemButton
              key={slug}
              selected={slug === "" ? chosen.length === 0 : chosen.includes(slug)}
              onClick={() => {
                onLook({ tables: slug === "" ? [] : [slug] });
                close();
              }}
            >
              <ListItemText primary={name} />
            </ListItemButton>
          ))}
        </List>
      )}
    </Picker>
  );
}

function LanguagePicker({
  languages,
  looking,
  onLook,
}: {
  languages: Schemas["LanguageReply"][];
  looking: Looking;
  onLook: Look;
}) {
  const chosen = languages.find(({ language }) => language.tag === looking.language);
  return (
    <Picker label={t("scope.languages")} words={chosen?.language.englishName ?? looking.language}>
      {(close) => (
        <List dense>
          {languages.map(({ language, states }) => (
            <ListItemButton
              key={language.tag}
              selected={language.tag === looking.language}
              onClick={() => {
                onLook({ language: language.tag, person: 0 });
                close();
              }}
            >
              <ListItemText
                primary={language.englishName}
                secondary={t("counts.offered", { n: states.offered ?? 0 })}
              />
            </ListItemButton>
          ))}
        </List>
      )}
    </Picker>
  );
}

function PersonPicker({
  contributors,
  person,
  onLook,
}: {
  contributors: Schemas["Contributor"][];
  person: number;
  onLook: Look;
}) {
  const name = contributors.find((one) => one.id === person)?.name ?? t("review.anyone");
  return (
    <Picker label={t("review.contributors")} words={person === 0 ? t("review.anyone") : name}>
      {(close) => (
        <List dense>
          {[{ id: 0, name: t("review.anyone") }, ...contributors].map((one) => (
            <ListItemButton
              key={one.id}
              selected={one.id === person}
              onClick={() => {
                onLook({ person: one.id });
                close();
              }}
            >
              <ListItemText primary={one.name} />
            </ListItemButton>
          ))}
        </List>
      )}
    </Picker>
  );
}
