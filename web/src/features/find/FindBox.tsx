import { Autocomplete, TextField } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { loadFontsOf } from "../../theme/fonts";
import { t } from "../../words/words";
import { EVERYTHING, ledgerAt, writeScope, type Scope } from "../../scope/scope";
import "./find.css";

/** The screens that can be found by name. */
const SCREENS = [
  { path: "/board", name: "tabs.board" },
  { path: "/ledger", name: "tabs.ledger" },
  { path: "/review", name: "tabs.review" },
  { path: "/offers", name: "tabs.offers" },
  { path: "/intake", name: "tabs.intake" },
  { path: "/checks", name: "tabs.checks" },
  { path: "/wordbook", name: "tabs.wordbook" },
  { path: "/people", name: "tabs.people" },
  { path: "/products", name: "tabs.products" },
] as const;

interface Hit {
  id: string;
  where: string;
  words: string;
  /** The text's language, for its direction and typeface. */
  language?: string;
  to: string;
}

/** One box over keys, sources, texts, notes, people and screens; Enter goes there, or shows all entries with the words. */
export function FindBox({ scope }: { scope: Scope | undefined }) {
  const [words, setWords] = useState("");
  const wanted = useDeferredValue(words.trim());
  const field = useRef<HTMLInputElement>(null);
  /** Where one was before, and is again after Esc. */
  const before = useRef<Element | null>(null);
  const navigate = useNavigate();
  const languages = scope?.languages ?? [];
  const found = useQuery({
    queryKey: ["find", wanted],
    queryFn: ({ signal }) => ask<Schemas["FoundReply"]>(`/api/find?words=${encodeURIComponent(wanted)}`, { signal }),
    enabled: wanted !== "",
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  });
  useEffect(() => {
    const focus = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest("input, textarea, [role=grid], [role=dialog]");
      if (event.key === "/" && !typing) {
        event.preventDefault();
        field.current?.focus();
      }
    };
    document.addEventListener("keydown", focus);
    return () => document.removeEventListener("keydown", focus);
  }, []);
  const hits = wanted === "" ? [] : hitsOf(wanted, found.data, languages);
  const shown = hits.map((hit) => hit.words).join("");
  useEffect(() => loadFontsOf(shown), [shown]);
  const go = (to: string) => {
    setWords("");
    field.current?.blur();
    void navigate(to);
  };
  return (
    <Autocomplete<Hit, false, false, true>
      freeSolo
      className="find"
      options={hits}
      filterOptions={(all) => all}
      getOptionLabel={(hit) => (typeof hit === "string" ? hit : hit.words)}
      getOptionKey={(hit) => (typeof hit === "string" ? hit : hit.id)}
      value={null}
      inputValue={words}
      onInputChange={(_, text, why) => {
        if (why !== "reset" && why !== "selectOption") setWords(text);
      }}
      onChange={(_, chosen) => {
        if (typeof chosen === "string") {
          const text = chosen.trim();
          if (text) go(`/ledger?${writeScope({ ...(scope ?? EVERYTHING), languages, words: text })}`);
        } else if (chosen) {
          go(chosen.to);
        }
      }}
      slotProps={{
        popper: { placement: "bottom-end", className: "found", role: "region", "aria-label": t("find.placeholder") },
      }}
      renderOption={(props, hit) => (
        <li {...props} key={hit.id}>
          <span className="where">{hit.where}</span>
          <span className="words" lang={hit.language} dir="auto">
            {hit.words}
          </span>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          id="find"
          size="small"
          onFocus={(event) => {
            before.current = event.relatedTarget;
          }}
          onKeyDown={(event) => {
            if (event.key !== "Escape") return;
            setWords("");
            if (before.current instanceof HTMLElement) before.current.focus();
          }}
          inputRef={field}
          placeholder={t("find.placeholder")}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, id: "find", "aria-label": t("find.placeholder") },
            input: { ...params.slotProps.input, endAdornment: <kbd className="hint">/</kbd> },
          }}
        />
      )}
    />
  );
}

function hitsOf(words: string, found: Schemas["FoundReply"] | undefined, languages: string[]): Hit[] {
  const lower = words.toLowerCase();
  const screens = SCREENS.filter((screen) => t(screen.name).toLowerCase().startsWith(lower));
  return [
    ...screens.map((screen) => ({
      id: screen.path,
      where: t("find.screen"),
      words: t(screen.name),
      to: screen.path,
    })),
    ...(found?.entries ?? []).map((one) => ({
      id: `${one.entry} ${one.language ?? ""}`,
      where: `${one.tableName} · ${one.key}`,
      words: one.words,
      language: one.language,
      to: `${ledgerAt({ tables: [one.table], languages: one.language ? [one.language] : languages })}&entry=${one.entry}`,
    })),
    ...(found?.people ?? []).map((person) => ({
      id: `person ${person.id}`,
      where: t("find.person"),
      words: person.name,
      to: `/people?person=${person.id}`,
    })),
  ];
}
