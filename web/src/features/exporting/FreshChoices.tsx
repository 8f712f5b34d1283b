import { Checkbox, FormControlLabel, MenuItem, TextField } from "@mui/material";
import type { Schemas } from "../../api/client";
import { anyOf, listed, t } from "../../words/words";
import { formatLabel, formatNames, useFormats } from "../intake";

const PATTERNS = [
  "{table}-{language}.{ext}",
  "{language}/{table}.{ext}",
  "{table}.{language}.{ext}",
  "{language}.{ext}",
];

export interface Fresh {
  format: string;
  languages: "all" | "scope" | "source";
  untranslated: "empty" | "source" | "fallback";
  onlySettled: boolean;
  onlyScope: boolean;
  delimiter: "comma" | "semicolon" | "tab";
  guard: boolean;
  leaveOut: boolean;
  pattern: string;
}

export const USUAL: Fresh = {
  format: "csv",
  languages: "all",
  untranslated: "empty",
  onlySettled: false,
  onlyScope: false,
  delimiter: "comma",
  guard: true,
  leaveOut: false,
  pattern: PATTERNS[0] ?? "",
};

interface Props {
  table: Schemas["TableReply"];
  languages: string[];
  /** The states that the scope asks for. */
  only: string[];
  fresh: Fresh;
  onChange: (fresh: Fresh) => void;
}

/** What a fresh file holds. */
export function FreshChoices({ table, languages, only, fresh, onChange }: Props) {
  const change = (part: Partial<Fresh>) => onChange({ ...fresh, ...part });
  const known = useFormats();
  const apart = known.formats.some((one) => one.name === fresh.format && one.apart);
  const several = apart && (fresh.languages === "all" ? table.languages.length : languages.length) > 1;
  return (
    <>
      <Pick
        label={t("reading.format")}
        value={fresh.format}
        options={formatNames(known, fresh.format).map((name) => [name, formatLabel(name)])}
        onPick={(format) => change({ format })}
      />
      <Pick
        label={t("export.languages")}
        value={fresh.languages}
        options={[
          ["all", t("export.allLanguages", { n: table.languages.length })],
          ["scope", listed(languages)],
          ["source", t("export.sourceOnly", { tag: table.source.tag })],
        ]}
        onPick={(picked) => change({ languages: picked as Fresh["languages"] })}
      />
      <Pick
        label={t("export.untranslated")}
        value={fresh.untranslated}
        options={(["empty", "source", "fallback"] as const).map((one) => [one, t(`export.untranslated.${one}`)])}
        onPick={(picked) => change({ untranslated: picked as Fresh["untranslated"] })}
      />
      {fresh.format === "csv" && (
        <Pick
          label={t("reading.delimiter")}
          value={fresh.delimiter}
          options={(["comma", "semicolon", "tab"] as const).map((one) => [one, t(`export.${one}`)])}
          onPick={(picked) => change({ delimiter: picked as Fresh["delimiter"] })}
        />
      )}
      {several && (
        <Pick
          label={t("export.pattern")}
          value={fresh.pattern}
          options={PATTERNS.map((pattern) => [pattern, pattern])}
          onPick={(pattern) => change({ pattern })}
        />
      )}
      <Check
        label={t("export.onlySettled")}
        checked={fresh.onlySettled}
        onCheck={(onlySettled) => change({ onlySettled })}
      />
      {only.length > 0 && (
        <Check
          label={t("export.onlyScope", { states: anyOf(only.map((state) => t(`state.${state as "stale"}`))) })}
          checked={fresh.onlyScope}
          onCheck={(onlyScope) => change({ onlyScope })}
        />
      )}
      {fresh.format === "csv" && (
        <Check label={t("export.guard")} checked={fresh.guard} onCheck={(guard) => change({ guard })} />
      )}
      {several && <p className="soft">{t("export.zip")}</p>}
    </>
  );
}

/** What is asked for, as both the file's address and that of its losses have it. */
export function queryOf(fresh: Fresh, table: Schemas["TableReply"], languages: string[], only: string[]) {
  const chosen = { all: [], scope: languages, source: [table.source.tag] }[fresh.languages];
  const query = new URLSearchParams({
    format: fresh.format,
    in: chosen.join(","),
    untranslated: fresh.untranslated,
    onlySettled: String(fresh.onlySettled),
    delimiter: fresh.delimiter,
    guard: String(fresh.guard),
    leaveOut: String(fresh.leaveOut),
    pattern: fresh.pattern,
  });
  if (fresh.onlyScope && only.length > 0) query.set("only", only.join(","));
  return query;
}

interface PickProps {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onPick: (value: string) => void;
}

function Pick({ label, value, options, onPick }: PickProps) {
  return (
    <TextField
      select
      size="small"
      margin="dense"
      fullWidth
      label={label}
      value={value}
      onChange={(event) => onPick(event.target.value)}
    >
      {options.map(([one, words]) => (
        <MenuItem key={one} value={one}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Check({ label, checked, onCheck }: { label: string; checked: boolean; onCheck: (checked: boolean) => void }) {
  return (
    <FormControlLabel
      control={<Checkbox size="small" checked={checked} onChange={(event) => onCheck(event.target.checked)} />}
      label={label}
    />
  );
}
