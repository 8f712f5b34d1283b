import { Autocomplete, TextField } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, type Schemas } from "../../api/client";
import { languageName, t } from "../../words/words";

type Language = Schemas["LanguageName"];

/** Finds a language by tag in any spelling, or by its English or own name. */
export function LanguagePicker({ label, onPick }: { label: string; onPick: (language: Language) => void }) {
  const [words, setWords] = useState("");
  const found = useQuery({
    queryKey: ["languages", words],
    queryFn: ({ signal }) => ask<Language[]>(`/api/languages?like=${encodeURIComponent(words)}`, { signal }),
    enabled: words.trim() !== "",
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  return (
    <Autocomplete<Language>
      options={words.trim() === "" ? [] : (found.data ?? [])}
      filterOptions={(all) => all}
      getOptionLabel={(one) => `${languageName(one)} · ${one.tag}`}
      getOptionKey={(one) => one.tag}
      noOptionsText={t(words.trim() === "" ? "language.type" : "language.none")}
      value={null}
      inputValue={words}
      blurOnSelect
      onInputChange={(_, text, why) => setWords(why === "reset" || why === "selectOption" ? "" : text)}
      onChange={(_, chosen) => {
        if (chosen) onPick(chosen);
      }}
      renderInput={(params) => <TextField {...params} size="small" label={label} />}
    />
  );
}
