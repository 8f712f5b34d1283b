import {
  Alert,
  Autocomplete,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languageName, nameOfTag, t } from "../../words/words";
import type { Person } from "../../session/useSession";
import { ledgerAt } from "../../scope/scope";
import "../../parts/form.css";

interface Props {
  me: Person;
  /** The term to change, null for a new one. */
  term: Schemas["Term"] | null;
  /** What a new one begins with. */
  words: string;
  sources: Schemas["LanguageName"][];
  languages: Schemas["LanguageName"][];
  products: Schemas["ProductReply"][];
  onDone: (sentence: string) => void;
  onClose: () => void;
}

const PARTS = ["", "noun", "verb", "adjective", "adverb", "name", "phrase"] as const;
const STATUSES = ["agreed", "proposed", "avoid"] as const;

/** Words that somebody typed in a row. */
function split(typed: string): string[] {
  return typed
    .split(/[,;、،]/)
    .map((one) => one.trim())
    .filter((one) => one !== "");
}

/** A term with what it is called in each language. Reviewers change their languages, coordinators all of it; contributors propose. */
export function TermDialog({ me, term, words: begun, sources, languages, products, onDone, onClose }: Props) {
  const [source, setSource] = useState(term?.source ?? sources[0]?.tag ?? "en");
  const [words, setWords] = useState(term?.term ?? begun);
  const [forms, setForms] = useState((term?.sense.forms ?? []).join(", "));
  const [part, setPart] = useState(term?.sense.part ?? "");
  const [status, setStatus] = useState(term?.sense.status ?? "agreed");
  const [of, setOf] = useState(term?.sense.products ?? []);
  const [busy, setBusy] = useState(false);
  const [note, setNote] = useState(term?.note ?? "");
  const [texts, setTexts] = useState<Record<string, { text: string; avoid: string; forms: string }>>(() =>
    Object.fromEntries(
      languages.map(({ tag }) => [
        tag,
        {
          text: term?.texts[tag]?.text ?? "",
          avoid: (term?.texts[tag]?.avoid ?? []).join(", "),
          forms: (term?.texts[tag]?.forms ?? []).join(", "),
        },
      ]),
    ),
  );
  const [wrong, setWrong] = useState("");
  const may = (tag: string, level: "reviewer" | "contributor") =>
    me.coordinator || me.levels[tag] === "reviewer" || me.levels[tag] === level;
  const mine = languages.filter(({ tag }) => tag !== source && may(tag, term ? "reviewer" : "contributor"));
  const proposing = term
    ? languages.filter(({ tag }) => tag !== source && me.levels[tag] === "contributor" && !me.coordinator)
    : [];
  const [proposals, setProposals] = useState<Record<string, string>>(() =>
    Object.fromEntries(proposing.map(({ tag }) => [tag, term?.texts[tag]?.proposal ?? ""])),
  );
  const use = useQuery({
    queryKey: ["terms", "use", term?.id],
    queryFn: ({ signal }) => ask<Schemas["TermCount"]>(`/api/terms/${term?.id ?? 0}/use`, { signal }),
    enabled: term !== null,
    staleTime: 0,
  });
  const put = (tag: string, one: Partial<{ text: string; avoid: string; forms: string }>) =>
    setTexts((before) => ({ ...before, [tag]: { text: "", avoid: "", forms: "", ...before[tag], ...one } }));
  const save = async () => {
    const said = Object.fromEntries(
      mine.map(({ tag }) => [
        tag,
        {
          text: texts[tag]?.text ?? "",
          avoid: split(texts[tag]?.avoid ?? ""),
          forms: split(texts[tag]?.forms ?? ""),
        },
      ]),
    );
    setBusy(true);
    const sense = { part, status, products: of, forms: split(forms) };
    try {
      if (term && mine.length > 0) {
        await ask(`/api/terms/${term.id}`, {
          method: "PUT",
          json: { version: term.version, term: words, note, ...sense, texts: said },
        });
      } else if (!term) {
        await ask("/api/terms", { method: "POST", json: { source, term: words, note, ...sense, texts: said } });
      }
      for (const { tag } of proposing) {
        if (term && (proposals[tag] ?? "").trim() !== (term.texts[tag]?.proposal ?? "")) {
          await ask(`/api/terms/${term.id}/proposals/${tag}`, { method: "PUT", json: { text: proposals[tag] ?? "" } });
        }
      }
      onDone(t("wordbook.saved", { term: words }));
    } catch (failure) {
      setWrong(sentenceOf(failure));
      setBusy(false);
    }
  };
  const remove = async () => {
    if (!term) return;
    try {
      await ask(`/api/terms/${term.id}`, { method: "DELETE" });
      onDone(t("wordbook.removed", { term: term.term }));
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="term-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!busy) void save();
        }}
      >
        <DialogTitle id="term-title">{term ? term.term : t("wordbook.add")}</DialogTitle>
        <DialogContent className="entry-form termform">
          {wrong && <Alert severity="error">{wrong}</Alert>}
          {!term && sources.length > 1 && (
            <TextField
              select
              size="small"
              label={t("wordbook.source")}
              value={source}
              onChange={(event) => setSource(event.target.value)}
            >
              {sources.map((one) => (
                <MenuItem key={one.tag} value={one.tag}>
                  {languageName(one)}
                </MenuItem>
              ))}
            </TextField>
          )}
          <TextField
            size="small"
            label={t("wordbook.term")}
            autoFocus={me.coordinator || !term}
            disabled={!me.coordinator && term !== null}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <TextField
            size="small"
            label={t("wordbook.forms")}
            helperText={t("wordbook.formsWords")}
            disabled={!me.coordinator && term !== null}
            value={forms}
            onChange={(event) => setForms(event.target.value)}
          />
          {me.coordinator && (
            <div className="pair">
              <TextField
                select
                size="small"
                label={t("wordbook.partOf")}
                value={part}
                onChange={(event) => setPart(event.target.value)}
              >
                {PARTS.map((one) => (
                  <MenuItem key={one} value={one}>
                    {t(`wordbook.part.${one === "" ? "none" : one}`)}
                  </MenuItem>
                ))}
              </TextField>
              <TextField
                select
                size="small"
                label={t("wordbook.status")}
                value={status}
                onChange={(event) => setStatus(event.target.value)}
              >
                {STATUSES.map((one) => (
                  <MenuItem key={one} value={one}>
                    {t(`wordbook.status.${one}`)}
                  </MenuItem>
                ))}
              </TextField>
            </div>
          )}
          {me.coordinator && products.length > 0 && (
            <Autocomplete
              multiple
              size="small"
              options={products.map(({ slug }) => slug)}
              getOptionLabel={(slug) => products.find((one) => one.slug === slug)?.name ?? slug}
              value={of}
              onChange={(_, value) => setOf(value)}
              renderInput={(given) => (
                <TextField {...given} label={t("wordbook.products")} helperText={t("wordbook.productsWords")} />
              )}
            />
          )}
          <TextField
            size="small"
            label={t("wordbook.note")}
            disabled={!me.coordinator && term !== null}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          {mine.map((language) => (
            <div key={language.tag} className="three">
              <TextField
                size="small"
                label={languageName(language)}
                value={texts[language.tag]?.text ?? ""}
                slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
                helperText={
                  term?.texts[language.tag]?.proposal && (
                    <ProposalShown text={term.texts[language.tag]} onTake={(text) => put(language.tag, { text })} />
                  )
                }
                onChange={(event) => put(language.tag, { text: event.target.value })}
              />
              <TextField
                size="small"
                label={t("wordbook.alsoIn", { language: languageName(language) })}
                value={texts[language.tag]?.forms ?? ""}
                slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
                onChange={(event) => put(language.tag, { forms: event.target.value })}
              />
              <TextField
                size="small"
                label={t("wordbook.avoid", { language: languageName(language) })}
                value={texts[language.tag]?.avoid ?? ""}
                slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
                onChange={(event) => put(language.tag, { avoid: event.target.value })}
              />
            </div>
          ))}
          {proposing.map((language) => (
            <TextField
              key={language.tag}
              size="small"
              label={t("wordbook.proposeIn", { language: languageName(language) })}
              helperText={term?.texts[language.tag]?.text}
              value={proposals[language.tag] ?? ""}
              slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
              onChange={(event) => setProposals({ ...proposals, [language.tag]: event.target.value })}
            />
          ))}
          {use.data && <UseShown use={use.data} term={words} languages={languages} />}
        </DialogContent>
        <DialogActions>
          {term && me.coordinator && (
            <Button color="error" onClick={() => void remove()}>
              {t("wordbook.remove")}
            </Button>
          )}
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy || words.trim() === ""}>
            {t("wordbook.save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** What a contributor proposes, to be taken with one press. */
function ProposalShown({ text, onTake }: { text: Schemas["TermText"] | undefined; onTake: (text: string) => void }) {
  const proposal = text?.proposal ?? "";
  return (
    <>
      {t("wordbook.proposes", { who: text?.proposedBy ?? "" })} <bdi>{proposal}</bdi>{" "}
      <Button size="small" onClick={() => onTake(proposal)}>
        {t("wordbook.takeProposal")}
      </Button>
    </>
  );
}

/** Where the term stands, and how many texts follow it, each with the way there. */
function UseShown(props: { use: Schemas["TermCount"]; term: string; languages: Schemas["LanguageName"][] }) {
  const { use, term, languages } = props;
  return (
    <div className="use">
      <p className="soft">{t("wordbook.use", { n: use.entries })}</p>
      <ul>
        {use.languages.map(({ language, texts, followed }) => (
          <li key={language}>
            <Link to={ledgerAt({ languages: [language], words: term })}>
              {nameOfTag(
                language,
                languages.map((one) => ({ language: one })),
              )}
            </Link>
            {": "}
            {t("wordbook.followed", { n: texts, followed })}
          </li>
        ))}
      </ul>
    </div>
  );
}
