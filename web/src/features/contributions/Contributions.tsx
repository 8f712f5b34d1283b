import { Alert, Button, MenuItem, TextField } from "@mui/material";
import { Link, useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";
import { reviewsIn, type Person } from "../../session/useSession";
import { FiguresTable } from "./FiguresTable";
import { PeriodFields } from "./PeriodFields";
import { figuresQuery, readPeriod, useContributions } from "./useContributions";

/** What people contributed per language in a period, for who reviews: on the page of people. */
export function Contributions({ me, languages }: { me: Person; languages: Schemas["LanguageReply"][] }) {
  const [query, setQuery] = useSearchParams();
  const period = readPeriod(query);
  const mine = languages.filter(({ language }) => reviewsIn(me, language.tag));
  const asked = query.get("in") ?? "";
  const language = mine.some((kept) => kept.language.tag === asked) ? asked : "";
  const figures = useContributions(period, language, 0);
  const look = (part: Record<string, string>) => setQuery({ ...period, in: language, ...part }, { replace: true });
  if (mine.length === 0) return null;
  return (
    <section aria-labelledby="contributions">
      <h2 id="contributions">{t("contributions.title")}</h2>
      <div className="looking">
        <PeriodFields period={period} onPeriod={({ from, to }) => look({ from, to })} />
        <TextField
          select
          size="small"
          label={t("contributions.language")}
          value={language}
          sx={{ minWidth: 190 }}
          slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          onChange={(event) => look({ in: event.target.value })}
        >
          <MenuItem value="">{t("contributions.every")}</MenuItem>
          {mine.map((kept) => (
            <MenuItem key={kept.language.tag} value={kept.language.tag}>
              {languageName(kept.language)}
            </MenuItem>
          ))}
        </TextField>
        <Button href={`/api/contributions.csv?${figuresQuery(period, language, 0)}`} download>
          {t("contributions.csv")}
        </Button>
        {language && (
          <Button component={Link} to={`/reports/${language}?from=${period.from}&to=${period.to}`}>
            {t("contributions.report")}
          </Button>
        )}
      </div>
      {figures.isError && <Alert severity="error">{sentenceOf(figures.error)}</Alert>}
      {figures.data &&
        (figures.data.length === 0 ? (
          <p className="soft">{t("contributions.none")}</p>
        ) : (
          <FiguresTable contributions={figures.data} languages={languages} period={period} named />
        ))}
      <p className="soft">{t("contributions.words")}</p>
    </section>
  );
}
