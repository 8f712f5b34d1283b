import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { count, t } from "../../words/words";

interface Props {
  tables: Schemas["TableReply"][];
  /** Called with a word to make a term of. */
  onPick: (words: string) => void;
  onClose: () => void;
}

/** Words that often stand in a table's sources and are no term yet. */
export function SuggestDialog({ tables, onPick, onClose }: Props) {
  const [table, setTable] = useState(tables[0]?.slug ?? "");
  const words = useQuery({
    queryKey: ["terms", "suggested", table],
    queryFn: ({ signal }) =>
      ask<Schemas["SuggestedTerm"][]>(`/api/terms/suggested?table=${encodeURIComponent(table)}`, { signal }),
    enabled: table !== "",
    staleTime: 0,
  });
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="suggest-title">
      <DialogTitle id="suggest-title">{t("wordbook.suggestTitle")}</DialogTitle>
      <DialogContent className="entry-form termform">
        <TextField
          select
          size="small"
          label={t("wordbook.suggestIn")}
          value={table}
          onChange={(event) => setTable(event.target.value)}
        >
          {tables.map((one) => (
            <MenuItem key={one.slug} value={one.slug}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
        {words.error && <Alert severity="error">{sentenceOf(words.error)}</Alert>}
        {words.data?.length === 0 && <p className="soft">{t("wordbook.noSuggestion")}</p>}
        <ul className="suggested">
          {words.data?.map((one) => (
            <li key={one.words}>
              <Button size="small" onClick={() => onPick(one.words)}>
                {one.words}
              </Button>{" "}
              <span className="soft">
                {count(one.entries)} · {one.example}
              </span>
            </li>
          ))}
        </ul>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}
