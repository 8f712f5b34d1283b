import type { Forms } from "../../text/shapes";
import { dropKept, everyTab, namesKept, readKept, writeKept } from "./browserStore";
import type { Change, Slip } from "./slip";
import { formsOfChange, versionOf } from "./slip";

const PREFIX = "mellow.text.";
/** Names of an earlier edition: a person, an entry and a language, and no tab. */
const FORMER = "mellow.unsaved.";
const LOCK = "mellow.tab.";

/** A slip as the browser keeps it, so that a reload or a power cut loses no letter. */
export interface Record {
  entry: number;
  language: string;
  /** When it was written, in milliseconds. */
  at: number;
  /** What was being typed or waited for its person. */
  forms: Forms | null;
  why: string;
  /** What was to be sent, in order; a change without a version is never sent by itself, as it could replace newer work. */
  chain: { change: Change; version: number | null }[];
}

function isRecord(kept: unknown): kept is Omit<Record, "entry" | "language"> {
  if (typeof kept !== "object" || kept === null) return false;
  const { at, forms, chain } = kept as Partial<Record>;
  return typeof at === "number" && Array.isArray(chain) && typeof forms === "object";
}

interface Former {
  text: string;
  forms?: Forms;
  sending?: { action: Change["action"]; version: number; offer?: number };
}

function isFormer(kept: unknown): kept is Former {
  return typeof kept === "object" && kept !== null && typeof (kept as Partial<Former>).text === "string";
}

/** This page, which lives until it is left or loaded again; two copies of one tab are two. */
export const TAB = Math.random().toString(36).slice(2);

/** Says to other tabs that this one lives, for as long as it does; without locks (a page from afar without encryption) every tab looks dead. */
export function live(): void {
  void navigator.locks?.request(LOCK + TAB, () => new Promise(() => undefined)).catch(() => undefined);
}

async function living(): Promise<Set<string>> {
  const held = (await navigator.locks?.query())?.held ?? [];
  return new Set(held.map((lock) => (lock.name ?? "").slice(LOCK.length)));
}

const nameOf = (person: number, entry: number, language: string) => `${PREFIX}${person}.${entry}.${language}.${TAB}`;

/** Keeps what a slip holds that the server does not have; nothing of one that holds nothing. */
export function keepRecord(person: number, entry: number, language: string, slip: Slip): void {
  const forms = slip.open?.forms ?? slip.kept?.forms ?? null;
  const chain = slip.chain
    .filter(({ change }) => formsOfChange(change))
    .map(({ change, seen }) => ({ change, version: versionOf(slip, seen) ?? null }));
  const name = nameOf(person, entry, language);
  if (!forms && chain.length === 0) dropKept(everyTab, name);
  else writeKept(everyTab, name, { at: Date.now(), forms, why: slip.kept?.why ?? "", chain });
}

/** Resolves once a tab does not live any more. */
export async function gone(tab: string): Promise<void> {
  await navigator.locks?.request(LOCK + tab, () => undefined);
}

/**
 * Takes over what tabs left that do not live any more; the newest first. Each is this tab's from then on, as soon as it is kept again.
 * @returns the tabs that live and have texts: one that was left a moment ago may be among them still
 */
export async function takeOver(person: number, take: (record: Record) => boolean): Promise<Set<string>> {
  const working = new Set<string>();
  const orphans = async () => {
    const alive = await living();
    const records: { name: string; record: Record }[] = [];
    for (const name of namesKept(everyTab, `${PREFIX}${person}.`)) {
      const [entry = "", language = "", tab = ""] = name.slice(`${PREFIX}${person}.`.length).split(".");
      const kept = readKept(everyTab, name, isRecord);
      // This tab's own are there too, when somebody comes back to it after another.
      if (!kept) continue;
      if (tab !== TAB && alive.has(tab)) working.add(tab);
      else records.push({ name, record: { ...kept, entry: Number(entry), language } });
    }
    for (const name of namesKept(everyTab, `${FORMER}${person}.`)) {
      const [entry = "", language = ""] = name.slice(`${FORMER}${person}.`.length).split(".");
      const kept = readKept(everyTab, name, isFormer);
      if (kept) records.push({ name, record: { ...current(kept), entry: Number(entry), language } });
    }
    for (const { name, record } of records.sort((a, b) => b.record.at - a.record.at)) {
      if (take(record) && !name.endsWith(`.${TAB}`)) dropKept(everyTab, name);
    }
  };
  // Two tabs that open at once must not take the same.
  if (navigator.locks) await navigator.locks.request("mellow.taking-over", orphans);
  else await orphans();
  return working;
}

function current({ text, forms, sending }: Former): Omit<Record, "entry" | "language"> {
  const all = forms ?? { other: text };
  if (!sending) return { at: 0, forms: all, why: "", chain: [] };
  const { action, version, offer } = sending;
  return {
    at: 0,
    forms: null,
    why: "",
    chain: [{ change: { action, offer, ...(forms ? { forms } : { text }) }, version }],
  };
}
