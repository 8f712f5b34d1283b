import { useQuery } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";

export type Contribution = Schemas["Contribution"];
export type Figures = Schemas["Figures"];

/** What figures are about: whole days, both included. */
export interface Period {
  from: string;
  to: string;
}

const DAY_MS = 86_400_000;
const USUAL_DAYS = 90;

/** The period of an address; the last 90 days where it names none. */
export function readPeriod(query: URLSearchParams, now = Date.now()): Period {
  const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);
  const read = (name: string) => (/^\d{4}-\d\d-\d\d$/.test(query.get(name) ?? "") ? (query.get(name) ?? "") : "");
  const to = read("to") || day(now);
  return { from: read("from") || day(Date.parse(to) - (USUAL_DAYS - 1) * DAY_MS), to };
}

/** The query of figures: of a language or all, of a person or all. */
export function figuresQuery(period: Period, language: string, person: number): string {
  const query = new URLSearchParams({ from: period.from, to: period.to });
  if (language) query.set("in", language);
  if (person) query.set("person", String(person));
  return query.toString();
}

/** Figures per language and person, as far as one may see them. */
export function useContributions(period: Period, language: string, person: number) {
  const query = figuresQuery(period, language, person);
  return useQuery({
    queryKey: ["contributions", query],
    queryFn: ({ signal }) => ask<Contribution[]>(`/api/contributions?${query}`, { signal }),
  });
}
