import { Alert, Button, Chip, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { languageName, listed, t } from "../../words/words";
import { LanguagePicker } from "./LanguagePicker";
import "../../parts/form.css";

type Language = Schemas["LanguageName"];

/** Makes a table without entries: a name, the language of its source, the languages it is kept in. */
export function NewTableDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [source, setSource] = useState<Language | null>(null);
  const [languages, setLanguages] = useState<Language[]>([]);
  const [wrong, setWrong] = useState<string | null>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const missing = [
    ...(name.trim() === "" ? [t("missing.name")] : []),
    ...(source ? [] : [t("missing.source")]),
    ...(languages.length === 0 ? [t("missing.languages")] : []),
  ];
  const make = () => {
    if (missing.length > 0) {
      setWrong(t("missing.say", { what: listed(missing) }));
      return;
    }
    ask<Schemas["TableReply"]>("/api/tables", {
      method: "POST",
      json: { name, source: source?.tag, languages: languages.map((one) => one.tag) },
    })
      .then(async (table) => {
        await queries.invalidateQueries({ queryKey: ["tables"] });
        // An empty ledger says how texts come into it.
        await navigate(ledgerAt({ tables: [table.slug] }));
      })
      .catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="table-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          make();
        }}
      >
        <DialogTitle id="table-title">{t("products.newTable")}</DialogTitle>
        <DialogContent className="entry-form">
          <TextField
            label={t("settings.name")}
            size="small"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          {source ? (
            <p>
              {t("settings.sourceLanguage", { language: languageName(source) })}{" "}
              <Button size="small" onClick={() => setSource(null)}>
                {t("settings.another")}
              </Button>
            </p>
          ) : (
            <LanguagePicker label={t("reading.source")} onPick={setSource} />
          )}
          <LanguagePicker
            label={t("settings.addLanguage")}
            onPick={(one) => setLanguages((all) => (all.some((other) => other.tag === one.tag) ? all : [...all, one]))}
          />
          <div className="chips">
            {languages.map((one) => (
              <Chip
                key={one.tag}
                size="small"
                label={languageName(one)}
                onDelete={() => setLanguages(languages.filter((other) => other.tag !== one.tag))}
              />
            ))}
          </div>
          {wrong && <Alert severity={missing.length > 0 ? "warning" : "error"}>{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained">
            {t("settings.makeTable")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
