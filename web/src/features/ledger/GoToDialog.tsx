import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { Entries } from "../../sheet/entries";
import { EVERYTHING, writeScope } from "../../scope/scope";
import "../../parts/form.css";

interface Props {
  entries: Entries;
  tables: Schemas["TableReply"][];
  languages: string[];
  onGo: (index: number) => void;
  onClose: () => void;
}

/** Goes to an entry by its number in the scope, or by its key or the beginning of it. */
export function GoToDialog({ entries, tables, languages, onGo, onClose }: Props) {
  const [wanted, setWanted] = useState("");
  const [wrong, setWrong] = useState("");
  const go = async () => {
    const words = wanted.trim();
    const number = Number(words.replaceAll(/[\s,.]/g, ""));
    if (words !== "" && Number.isInteger(number) && number >= 1 && number <= entries.size) {
      onGo(number - 1);
      return;
    }
    try {
      const index = await indexOfKey(words, entries, tables, languages);
      if (index < 0) setWrong(t("goTo.none", { key: words }));
      else onGo(index);
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="goto-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <DialogTitle id="goto-title">{t("goTo.title")}</DialogTitle>
        <DialogContent className="entry-form">
          <TextField
            label={t("goTo.label", { n: entries.size })}
            size="small"
            autoFocus
            value={wanted}
            error={wrong !== ""}
            helperText={wrong}
            onChange={(event) => {
              setWanted(event.target.value);
              setWrong("");
            }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={wanted.trim() === ""}>
            {t("goTo.do")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** Index of the first entry of the scope in whose key the words stand; the one that is exactly it comes before others. */
async function indexOfKey(
  words: string,
  entries: Entries,
  tables: Schemas["TableReply"][],
  languages: string[],
): Promise<number> {
  const scope = writeScope({ ...EVERYTHING, tables: tables.map((table) => table.slug), languages, words });
  const reply = await ask<Schemas["ScopeReply"]>(`/api/scope?${scope}`);
  const found: number[] = [];
  let id = 0;
  for (const delta of reply.deltas) {
    id += delta;
    found.push(id);
  }
  const rows: Schemas["RowReply"][] = [];
  for (let at = 0; at < Math.min(found.length, 1_000); at += 200) {
    rows.push(...(await ask<Schemas["RowReply"][]>(`/api/rows?ids=${found.slice(at, at + 200).join(",")}`)));
  }
  const inScope = rows.filter((row) => entries.ids.includes(row.id));
  const key = words.toLowerCase();
  const exact = inScope.find((row) => row.key.toLowerCase() === key);
  const part = exact ?? inScope.find((row) => row.key.toLowerCase().includes(key));
  return part ? entries.ids.indexOf(part.id) : -1;
}
