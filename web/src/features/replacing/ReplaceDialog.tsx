import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  TextField,
} from "@mui/material";
import { useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import { MAIN } from "../../text/shapes";
import type { Person } from "../../session/useSession";
import { ChangeList } from "../../text/ChangeList";
import "./replacing.css";

type Hit = Schemas["Hit"];
type Outcome = "PENCIL" | "OFFER" | "PUT_FORWARD" | "FIX" | "CHANGED";

/** Sources are looked through under this name, which is no language's tag. */
const SOURCES = "";

interface Props {
  me: Person;
  /** The scope to look through, as its query string. */
  scope: string;
  languages: Schemas["LanguageReply"][];
  /** The language that is chosen at first. */
  first: string;
  /** Called when the dialog closes; with what was done when something was. */
  onDone: (done: { change: number; entries: number[]; said: string } | null) => void;
}

/** Finds and replaces words over a scope: every hit is shown with its differences, and only ticked ones change. One undo takes all back. */
export function ReplaceDialog({ me, scope, languages, first, onDone }: Props) {
  const [wanted, setWanted] = useState({ find: "", with: "", pattern: false, wholeWords: false, matchCase: false });
  const [where, setWhere] = useState(first);
  const [found, setFound] = useState<{ hits: Hit[]; all: number; where: string } | null>(null);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [outcome, setOutcome] = useState<Outcome>("PENCIL");
  const [wrong, setWrong] = useState("");
  const going = useRef(false);
  const [busy, setBusy] = useState("");
  const may = languages.filter(({ language }) => me.coordinator || (me.levels[language.tag] ?? "reader") !== "reader");
  const outcomes: Outcome[] = where === SOURCES ? ["FIX", "CHANGED"] : ["PENCIL", "OFFER", "PUT_FORWARD"];
  const chosen = found?.hits.filter((hit) => !left.has(hit.entry)) ?? [];
  const change = (part: Partial<typeof wanted>) => {
    setWanted({ ...wanted, ...part });
    setFound(null);
  };
  const look = async () => {
    setBusy(t("replace.looking"));
    setWrong("");
    try {
      const language = where === SOURCES ? undefined : where;
      const reply = await ask<Schemas["Found"]>("/api/replace/preview", {
        method: "POST",
        json: { scope, language, ...wanted },
      });
      setFound({ hits: reply.hits, all: reply.all, where });
      setLeft(new Set());
    } catch (failure) {
      setWrong(sentenceOf(failure));
    } finally {
      setBusy("");
    }
  };
  const carryOut = async () => {
    // A second press comes before the first is drawn.
    if (going.current) return;
    going.current = true;
    setBusy(t("replace.replacing", { n: chosen.length }));
    setWrong("");
    const entries = chosen.map((hit) => hit.entry);
    try {
      if (where === SOURCES) {
        const done = await ask<Schemas["Changed"]>("/api/entries/sources", {
          method: "POST",
          json: {
            sources: chosen.map((hit) => ({ entry: hit.entry, version: hit.version, source: hit.after })),
            meaningChanged: outcome === "CHANGED",
          },
        });
        onDone({ change: done.change, entries, said: said(done.entries.length, done.refused.length, done.refused[0]) });
      } else {
        const done = await ask<Schemas["Many"]>("/api/cells/changes", {
          method: "POST",
          json: { action: outcome, cells: chosen.map((hit) => cellOf(hit, where)), meaningConfirmed: false },
        });
        onDone({
          change: done.change,
          entries,
          said: said(done.changed, done.refusedInAll, done.refused[0]?.sentence),
        });
      }
    } catch (failure) {
      going.current = false;
      setWrong(sentenceOf(failure));
      setBusy("");
    }
  };
  const language = languages.find((one) => one.language.tag === found?.where)?.language;
  return (
    <Dialog open onClose={() => onDone(null)} maxWidth="md" fullWidth aria-labelledby="replace-title">
      <DialogTitle id="replace-title">{t("replace.title")}</DialogTitle>
      <DialogContent className="replacing">
        <form
          id="replace-form"
          onSubmit={(event) => {
            event.preventDefault();
            void look();
          }}
        >
          <TextField
            size="small"
            label={t("replace.find")}
            autoFocus
            value={wanted.find}
            onChange={(event) => change({ find: event.target.value })}
          />
          <TextField
            size="small"
            label={t("replace.with")}
            value={wanted.with}
            onChange={(event) => change({ with: event.target.value })}
          />
          <TextField
            select
            size="small"
            label={t("replace.where")}
            value={where}
            onChange={(event) => {
              setWhere(event.target.value);
              setOutcome(event.target.value === SOURCES ? "FIX" : "PENCIL");
              setFound(null);
            }}
          >
            {may.map(({ language: one }) => (
              <MenuItem key={one.tag} value={one.tag}>
                {t("replace.texts", { language: languageName(one) })}
              </MenuItem>
            ))}
            {me.coordinator && <MenuItem value={SOURCES}>{t("replace.sources")}</MenuItem>}
          </TextField>
          <div className="how">
            {(["matchCase", "wholeWords", "pattern"] as const).map((how) => (
              <FormControlLabel
                key={how}
                control={<Checkbox size="small" checked={wanted[how]} onChange={(_, on) => change({ [how]: on })} />}
                label={t(`replace.${how}`)}
              />
            ))}
          </div>
        </form>
        {wrong && <Alert severity="error">{wrong}</Alert>}
        <p role="status" className="soft">
          {busy ||
            (found && found.all > found.hits.length
              ? t("replace.foundMany", { n: found.all, shown: found.hits.length })
              : found
                ? t("replace.found", { n: found.all })
                : t("replace.kept"))}
        </p>
        {found && found.hits.length > 0 && (
          <>
            <ChangeList
              label={t("replace.hits")}
              changes={found.hits.map((hit) => ({
                id: hit.entry,
                name: hit.key,
                settled: hit.settled,
                before: hit.before,
                after: hit.after,
                lang: language?.tag ?? "",
                rightToLeft: language?.rightToLeft ?? false,
              }))}
              left={left}
              onLeft={setLeft}
            />
            <TextField
              select
              size="small"
              className="outcome"
              label={t("replace.as")}
              value={outcome}
              onChange={(event) => setOutcome(event.target.value as Outcome)}
            >
              {outcomes.map((one) => (
                <MenuItem key={one} value={one}>
                  {t(`replace.as.${one}`)}
                </MenuItem>
              ))}
            </TextField>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onDone(null)}>{t("cancel")}</Button>
        <Button
          type="submit"
          form="replace-form"
          variant={found ? "outlined" : "contained"}
          disabled={wanted.find === "" || busy !== ""}
        >
          {t("replace.look")}
        </Button>
        {found && (
          <Button variant="contained" disabled={chosen.length === 0 || busy !== ""} onClick={() => void carryOut()}>
            {t("replace.do", { n: chosen.length })}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function cellOf(hit: Hit, language: string): Schemas["One"] {
  const forms = Object.keys(hit.after);
  const plain = forms.length === 1 && forms[0] === MAIN;
  return {
    entry: hit.entry,
    language,
    version: hit.version,
    ...(plain ? { text: hit.after[MAIN] } : { forms: hit.after }),
  };
}

function said(changed: number, refused: number, why: string | undefined): string {
  const stayed = refused > 0 ? ` ${t("select.refused", { n: refused, why: why ?? "" })}` : "";
  return t("replace.done", { n: changed }) + stayed;
}
