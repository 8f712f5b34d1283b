import { Alert, Button, MenuItem, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { nameOfTag, t } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { OfferList } from "../offers";
import { ANSWERS, useOffers, type Answer } from "../offers";
import type { Person } from "../../session/useSession";
import { FiguresTable } from "./FiguresTable";
import { PeriodFields } from "./PeriodFields";
import { figuresQuery, readPeriod, useContributions } from "./useContributions";
import "../../parts/pages.css";

/** One person: what they contributed in each language that one may see, and their offers with what became of them. */
export function PersonPage({ me }: { me: Person }) {
  const id = Number(useParams().id);
  const [query, setQuery] = useSearchParams();
  const period = readPeriod(query);
  const answer = ANSWERS.find((one) => one === query.get("answer")) ?? "";
  const tag = query.get("in") ?? "";
  const tables = useTables();
  const languages = languagesOf(tables.data ?? []);
  const people = useQuery({
    queryKey: ["people"],
    queryFn: ({ signal }) => ask<Schemas["PersonRow"][]>("/api/people", { signal }),
  });
  const person = people.data?.find((one) => one.id === id);
  const figures = useContributions(period, "", id);
  const offers = useOffers(id, tag, answer);
  const look = (part: Record<string, string>) => {
    const next = { ...period, in: tag, answer, ...part };
    setQuery(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== "")), { replace: true });
  };
  const own = figures.data ?? [];
  return (
    <Frame
      title={
        <h1 className="scopeline">
          {people.data && !person ? t("person.unknown") : t("person.contributions", { name: person?.name ?? "" })}
        </h1>
      }
    >
      <div className="settings">
        {figures.isError && <Alert severity="error">{sentenceOf(figures.error)}</Alert>}
        <div className="looking">
          <PeriodFields period={period} onPeriod={({ from, to }) => look({ from, to })} />
          <Button href={`/api/contributions.csv?${figuresQuery(period, "", id)}`} download>
            {t("contributions.csv")}
          </Button>
          {person && (
            <Button
              component={Link}
              to={ledgerAt({ languages: languages.map((kept) => kept.language.tag), person: id })}
            >
              {t("person.inLedger")}
            </Button>
          )}
        </div>
        {figures.data &&
          (own.length === 0 ? (
            <p className="soft">{t("contributions.none")}</p>
          ) : (
            <FiguresTable contributions={own} languages={languages} period={period} named={false} />
          ))}
        <section aria-labelledby="history">
          <h2 id="history">{t("person.history")}</h2>
          <div className="looking">
            <TextField
              select
              size="small"
              label={t("contributions.language")}
              value={own.some((one) => one.language === tag) ? tag : ""}
              sx={{ minWidth: 190 }}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              onChange={(event) => look({ in: event.target.value })}
            >
              <MenuItem value="">{t("contributions.every")}</MenuItem>
              {own.map(({ language }) => (
                <MenuItem key={language} value={language}>
                  {nameOfTag(language, languages)}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              select
              size="small"
              label={t("person.answer")}
              value={answer}
              sx={{ minWidth: 190 }}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              onChange={(event) => look({ answer: event.target.value as Answer | "" })}
            >
              <MenuItem value="">{t("offers.show.all")}</MenuItem>
              {ANSWERS.map((one) => (
                <MenuItem key={one} value={one}>
                  {t(`offers.show.${one}`)}
                </MenuItem>
              ))}
            </TextField>
          </div>
          <OfferList offers={offers} languages={languages} mine={id === me.id} />
        </section>
      </div>
    </Frame>
  );
}
