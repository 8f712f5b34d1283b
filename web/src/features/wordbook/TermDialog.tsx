import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import type { Person } from "../../session/useSession";
import "../../parts/form.css";

interface Props {
  me: Person;
  /** The term to change, null for a new one. */
  term: Schemas["Term"] | null;
  sources: Schemas["LanguageName"][];
  languages: Schemas["LanguageName"][];
  onDone: (sentence: string) => void;
  onClose: () => void;
}

/** A term with what it is called in each language. Reviewers change their languages, coordinators all of it. */
export function TermDialog({ me, term, sources, languages, onDone, onClose }: Props) {
  const [source, setSource] = useState(term?.source ?? sources[0]?.tag ?? "en");
  const [words, setWords] = useState(term?.term ?? "");
  const [note, setNote] = useState(term?.note ?? "");
  const [texts, setTexts] = useState<Record<string, { text: string; avoid: string }>>(() =>
    Object.fromEntries(
      languages.map(({ tag }) => [
        tag,
        { text: term?.texts[tag]?.text ?? "", avoid: (term?.texts[tag]?.avoid ?? []).join(", ") },
      ]),
    ),
  );
  const [wrong, setWrong] = useState("");
  const mine = languages.filter(({ tag }) => tag !== source && (me.coordinator || me.levels[tag] === "reviewer"));
  const put = (tag: string, part: Partial<{ text: string; avoid: string }>) =>
    setTexts((before) => ({ ...before, [tag]: { text: "", avoid: "", ...before[tag], ...part } }));
  const save = async () => {
    const said = Object.fromEntries(
      mine.map(({ tag }) => [
        tag,
        { text: texts[tag]?.text ?? "", avoid: (texts[tag]?.avoid ?? "").split(/[,;、،]/).map((one) => one.trim()) },
      ]),
    );
    try {
      if (term) {
        await ask(`/api/terms/${term.id}`, {
          method: "PUT",
          json: { version: term.version, term: words, note, texts: said },
        });
      } else {
        await ask("/api/terms", { method: "POST", json: { source, term: words, note, texts: said } });
      }
      onDone(t("wordbook.saved", { term: words }));
    } catch (failure) {
      setWrong(sentenceOf(failure));
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
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="term-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
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
            autoFocus={me.coordinator}
            disabled={!me.coordinator}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <TextField
            size="small"
            label={t("wordbook.note")}
            disabled={!me.coordinator}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          {mine.map((language) => (
            <div key={language.tag} className="pair">
              <TextField
                size="small"
                label={languageName(language)}
                value={texts[language.tag]?.text ?? ""}
                slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
                onChange={(event) => put(language.tag, { text: event.target.value })}
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
        </DialogContent>
        <DialogActions>
          {term && me.coordinator && (
            <Button color="error" onClick={() => void remove()}>
              {t("wordbook.remove")}
            </Button>
          )}
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={words.trim() === ""}>
            {t("wordbook.save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
