import { Alert, Button, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { day, languageName, t } from "../../words/words";
import "../../parts/listed.css";

type Rule = Schemas["Rule"];

const USUAL = 25;

/** Per language: whether offers of trusted contributors are settled at once, and after how many settled in a row. Off unless a coordinator sets it. */
export function StandingRules({ languages }: { languages: Schemas["LanguageReply"][] }) {
  const queries = useQueryClient();
  const rules = useQuery({
    queryKey: ["standing"],
    queryFn: ({ signal }) => ask<Rule[]>("/api/standing", { signal }),
  });
  const [editing, setEditing] = useState<{ tag: string; after: string } | null>(null);
  const [wrong, setWrong] = useState("");
  const set = async (tag: string, after: number | null) => {
    setWrong("");
    try {
      await ask(`/api/standing/${encodeURIComponent(tag)}`, { method: "PUT", json: { after } });
      await queries.invalidateQueries({ queryKey: ["standing"] });
      setEditing(null);
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
  };
  return (
    <section aria-labelledby="standing">
      <h2 id="standing">{t("standing.title")}</h2>
      <p className="soft">{t("standing.words")}</p>
      {(wrong || rules.isError) && <Alert severity="error">{wrong || sentenceOf(rules.error)}</Alert>}
      <table className="listed standing">
        <tbody>
          {languages.map(({ language }) => {
            const rule = rules.data?.find((one) => one.language === language.tag);
            const open = editing?.tag === language.tag;
            return (
              <tr key={language.tag}>
                <th scope="row">{languageName(language)}</th>
                <td>
                  {open ? (
                    <form
                      className="looking"
                      onSubmit={(event) => {
                        event.preventDefault();
                        void set(language.tag, Number(editing.after));
                      }}
                    >
                      <TextField
                        size="small"
                        type="number"
                        autoFocus
                        label={t("standing.after")}
                        value={editing.after}
                        slotProps={{ htmlInput: { min: 3, max: 1000 } }}
                        onChange={(event) => setEditing({ ...editing, after: event.target.value })}
                        onKeyDown={(event) => event.key === "Escape" && setEditing(null)}
                      />
                      <Button size="small" type="submit" variant="contained">
                        {t("standing.set")}
                      </Button>
                      <Button size="small" onClick={() => setEditing(null)}>
                        {t("cancel")}
                      </Button>
                    </form>
                  ) : rule ? (
                    t("standing.on", { n: rule.after, who: rule.by, day: day(rule.at) })
                  ) : (
                    <span className="soft">{t("standing.off")}</span>
                  )}
                </td>
                <td className="order">
                  {!open && (
                    <Button
                      size="small"
                      aria-label={t("standing.changeOf", { language: languageName(language) })}
                      onClick={() => setEditing({ tag: language.tag, after: String(rule?.after ?? USUAL) })}
                    >
                      {t(rule ? "people.change" : "standing.switchOn")}
                    </Button>
                  )}
                  {rule && !open && (
                    <Button
                      size="small"
                      aria-label={t("standing.offOf", { language: languageName(language) })}
                      onClick={() => void set(language.tag, null)}
                    >
                      {t("standing.switchOff")}
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
