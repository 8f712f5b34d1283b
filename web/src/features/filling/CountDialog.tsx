import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  MenuItem,
  TextField,
} from "@mui/material";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { count, languageName, t } from "../../words/words";
import "./filling.css";

type Band = Schemas["WorkCounted"]["band"];

/** From what is done already to what is all work. */
const BANDS: Band[] = ["ELSEWHERE", "TWICE", "NEARLY", "SIMILAR", "FAR", "NEW"];

interface Props {
  /** The scope to count, as its query string. */
  scope: string;
  languages: Schemas["LanguageReply"][];
  onClose: () => void;
}

/** How much work the untranslated texts of a scope are, by how much of them is like something that was settled before; as a file for spreadsheets, too. */
export function CountDialog({ scope, languages, onClose }: Props) {
  const [where, setWhere] = useState(languages[0]?.language.tag ?? "");
  const counts = useInfiniteQuery({
    queryKey: ["fill", "counts", scope, where],
    queryFn: ({ pageParam, signal }) =>
      ask<Schemas["WorkCounts"]>(
        `/api/fill/counts?${String(new URLSearchParams({ scope, language: where, first: String(pageParam) }))}`,
        { signal },
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next ?? undefined,
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage, error } = counts;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && !error) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, error, fetchNextPage]);
  const pages = data?.pages ?? [];
  const whole = pages.length > 0 && !hasNextPage && !error;
  const looked = pages.reduce((sum, page) => sum + page.looked, 0);
  const of = pages[0]?.of ?? 0;
  const lines = BANDS.map((band) => {
    const parts = pages.flatMap((page) => page.bands.filter((one) => one.band === band));
    const sum = (what: "entries" | "words" | "characters") => parts.reduce((all, one) => all + one[what], 0);
    return { band, entries: sum("entries"), words: sum("words"), characters: sum("characters") };
  });
  const total = (what: "entries" | "words" | "characters") => lines.reduce((all, one) => all + one[what], 0);
  const csv = [
    ["band", "entries", "words", "characters"],
    ...lines.map((one) => [t(`count.${one.band}`), one.entries, one.words, one.characters]),
  ]
    .map((line) => line.map((part) => `"${String(part).replaceAll('"', '""')}"`).join(","))
    .join("\r\n");
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="count-title">
      <DialogTitle id="count-title">{t("count.title")}</DialogTitle>
      <DialogContent className="filling">
        <div className="fields">
          <TextField
            select
            size="small"
            label={t("fill.in")}
            value={where}
            onChange={(event) => setWhere(event.target.value)}
          >
            {languages.map(({ language }) => (
              <MenuItem key={language.tag} value={language.tag}>
                {languageName(language)}
              </MenuItem>
            ))}
          </TextField>
        </div>
        {error ? (
          <Alert severity="error" action={<Button onClick={() => void counts.refetch()}>{t("retry")}</Button>}>
            {sentenceOf(error)}
          </Alert>
        ) : (
          !whole && (
            <LinearProgress
              aria-label={t("count.going")}
              variant={of > 0 ? "determinate" : "indeterminate"}
              value={of > 0 ? (100 * looked) / of : 0}
            />
          )
        )}
        {pages.length > 0 && (
          <table className="counts">
            <thead>
              <tr>
                <th scope="col">{t("count.known")}</th>
                <th scope="col">{t("count.entries")}</th>
                <th scope="col">{t("count.words")}</th>
                <th scope="col">{t("count.characters")}</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((one) => (
                <tr key={one.band}>
                  <th scope="row">{t(`count.${one.band}`)}</th>
                  <td>{count(one.entries)}</td>
                  <td>{count(one.words)}</td>
                  <td>{count(one.characters)}</td>
                </tr>
              ))}
              <tr>
                <th scope="row">{t("count.all")}</th>
                <td>{count(total("entries"))}</td>
                <td>{count(total("words"))}</td>
                <td>{count(total("characters"))}</td>
              </tr>
            </tbody>
          </table>
        )}
      </DialogContent>
      <DialogActions>
        <Button
          component="a"
          disabled={!whole}
          href={`data:text/csv;charset=utf-8,${encodeURIComponent(`\ufeff${csv}`)}`}
          download={`count-${where}.csv`}
        >
          {t("count.csv")}
        </Button>
        <Button variant="contained" onClick={onClose}>
          {t("close")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
