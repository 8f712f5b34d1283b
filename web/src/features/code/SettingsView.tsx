import { Alert, Button, CircularProgress, MenuItem, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import { t } from "../../words/words";
import { CODE, codeOf } from "./useCode";

type Settings = Schemas["CodeSettings"];
type Habit = Schemas["CodeHabit"];
type Rewrite = Schemas["CodeRewrite"];

const KINDS = ["call", "resource", "attribute", "mark", "comment", "own"] as const;
type Kind = (typeof KINDS)[number];
const PLACES = ["literal", "attribute", "text"] as const;

const EMPTY: Habit = {
  kind: "call",
  names: undefined,
  key: undefined,
  text: undefined,
  context: undefined,
  values: undefined,
  open: undefined,
  close: undefined,
  files: undefined,
  pattern: undefined,
};

/** How the code of a product names keys, and how it writes one where a text was. */
export function SettingsView({ product, me }: { product: string; me: Person }) {
  const settings = useQuery({
    queryKey: [CODE, product, "settings"],
    queryFn: ({ signal }) => ask<Settings>(`${codeOf(product)}/settings`, { signal }),
    staleTime: Infinity,
  });
  // The form is made anew with what was saved; that it was is said beside it.
  const [saved, setSaved] = useState(0);
  if (settings.error) {
    return (
      <Alert severity="error" action={<Button onClick={() => void settings.refetch()}>{t("retry")}</Button>}>
        {sentenceOf(settings.error)}
      </Alert>
    );
  }
  if (!settings.data) return <CircularProgress size={22} aria-label={t("ledger.loading")} />;
  return (
    <SettingsForm
      key={settings.data.version}
      product={product}
      settings={settings.data}
      may={me.coordinator}
      saved={settings.data.version === saved}
      onSaved={setSaved}
    />
  );
}

interface FormProps {
  product: string;
  settings: Settings;
  may: boolean;
  saved: boolean;
  onSaved: (version: number) => void;
}

function SettingsForm({ product, settings, may, saved, onSaved }: FormProps) {
  const queries = useQueryClient();
  const [habits, setHabits] = useState(settings.habits);
  const [rewrites, setRewrites] = useState(settings.rewrites);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    setWrong("");
    try {
      const now = await ask<Settings>(`${codeOf(product)}/settings`, {
        method: "PUT",
        json: { version: settings.version, habits, rewrites },
      });
      onSaved(now.version);
      queries.setQueryData([CODE, product, "settings"], now);
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
    setBusy(false);
  };
  const changed = <One,>(all: One[], at: number, to: Partial<One>): One[] =>
    all.map((one, index) => (index === at ? { ...one, ...to } : one));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (may && !busy) void save();
      }}
    >
      <h2>{t("code.habits")}</h2>
      <p className="soft">{t("code.habitsWords")}</p>
      {habits.map((one, at) => (
        <HabitFields
          key={at}
          habit={one}
          may={may}
          onChange={(to) => setHabits(changed(habits, at, to))}
          onRemove={() => setHabits(habits.filter((_, index) => index !== at))}
        />
      ))}
      {may && (
        <Button size="small" onClick={() => setHabits([...habits, EMPTY])}>
          {t("code.addHabit")}
        </Button>
      )}
      <h2>{t("code.rewrites")}</h2>
      <p className="soft">{t("code.rewritesWords")}</p>
      {rewrites.map((one, at) => (
        <RewriteFields
          key={at}
          rewrite={one}
          may={may}
          onChange={(to) => setRewrites(changed(rewrites, at, to))}
          onRemove={() => setRewrites(rewrites.filter((_, index) => index !== at))}
        />
      ))}
      {may && (
        <div className="does">
          <Button
            size="small"
            onClick={() => setRewrites([...rewrites, { files: "*.ts", kind: "literal", code: "", needs: "" }])}
          >
            {t("code.addRewrite")}
          </Button>
          <Button type="submit" variant="contained" size="small" disabled={busy}>
            {t("save")}
          </Button>
          {saved && <span role="status">{t("code.savedSettings")}</span>}
        </div>
      )}
      {wrong && <Alert severity="error">{wrong}</Alert>}
    </form>
  );
}

interface HabitProps {
  habit: Habit;
  may: boolean;
  onChange: (to: Partial<Habit>) => void;
  onRemove: () => void;
}

function HabitFields({ habit, may, onChange, onRemove }: HabitProps) {
  const kind = habit.kind as Kind;
  const names = (label: string) => (
    <TextField
      size="small"
      className="wide"
      label={label}
      disabled={!may}
      value={(habit.names ?? []).join(", ")}
      onChange={(event) => onChange({ names: event.target.value.split(/,\s*/) })}
    />
  );
  const words = (part: "open" | "close" | "files" | "pattern", label: string, className = "few") => (
    <TextField
      size="small"
      className={className}
      label={label}
      disabled={!may}
      value={habit[part] ?? ""}
      onChange={(event) => onChange({ [part]: event.target.value })}
    />
  );
  const place = (part: "key" | "text" | "context" | "values", label: string) => (
    <TextField
      size="small"
      className="few"
      label={label}
      disabled={!may}
      value={placeShown(habit[part])}
      onChange={(event) => onChange({ [part]: placeTyped(event.target.value, part === "key") })}
    />
  );
  return (
    <div className="habit" role="group" aria-label={t(`code.habit.${kind}`)}>
      <TextField
        select
        size="small"
        label={t("code.kind")}
        disabled={!may}
        value={kind}
        onChange={(event) => onChange({ ...EMPTY, kind: event.target.value })}
      >
        {KINDS.map((one) => (
          <MenuItem key={one} value={one}>
            {t(`code.habit.${one}`)}
          </MenuItem>
        ))}
      </TextField>
      {kind === "call" && (
        <>
          {names(t("code.functions"))}
          {place("key", t("code.placeKey"))}
          {place("text", t("code.placeText"))}
          {place("context", t("code.placeContext"))}
          {place("values", t("code.placeValues"))}
        </>
      )}
      {kind === "resource" && (
        <>
          {words("open", t("code.owner"))}
          {names(t("code.resourceKinds"))}
        </>
      )}
      {kind === "attribute" && names(t("code.attributes"))}
      {kind === "mark" && (
        <>
          {words("open", t("code.markOpen"))}
          {words("close", t("code.markClose"))}
        </>
      )}
      {kind === "comment" && words("open", t("code.commentWord"), "wide")}
      {kind === "own" && (
        <>
          {words("open", t("code.ownName"))}
          {words("files", t("code.files"))}
          {words("pattern", t("code.pattern"), "wide mono")}
        </>
      )}
      {may && (
        <Button size="small" color="error" onClick={onRemove}>
          {t("code.remove")}
        </Button>
      )}
    </div>
  );
}

interface RewriteProps {
  rewrite: Rewrite;
  may: boolean;
  onChange: (to: Partial<Rewrite>) => void;
  onRemove: () => void;
}

function RewriteFields({ rewrite, may, onChange, onRemove }: RewriteProps) {
  const words = (part: "files" | "code" | "needs", label: string, className: string) => (
    <TextField
      size="small"
      className={className}
      label={label}
      disabled={!may}
      value={rewrite[part]}
      onChange={(event) => onChange({ [part]: event.target.value })}
    />
  );
  return (
    <div className="habit" role="group" aria-label={t("code.rewrites")}>
      {words("files", t("code.files"), "few")}
      <TextField
        select
        size="small"
        label={t("code.stands")}
        disabled={!may}
        value={rewrite.kind}
        onChange={(event) => onChange({ kind: event.target.value })}
      >
        {PLACES.map((one) => (
          <MenuItem key={one} value={one}>
            {t(`code.stands.${one}`)}
          </MenuItem>
        ))}
      </TextField>
      {words("code", t("code.writes"), "wide")}
      {words("needs", t("code.needs"), "wide")}
      {may && (
        <Button size="small" color="error" onClick={onRemove}>
          {t("code.remove")}
        </Button>
      )}
    </div>
  );
}

/** Places of arguments are counted from 1 by people. */
function placeShown(place: number | null | undefined): string {
  return typeof place === "number" && place >= 0 ? String(place + 1) : "";
}

function placeTyped(typed: string, required: boolean): number {
  const place = Number.parseInt(typed, 10);
  return Number.isNaN(place) || place < 1 ? (required ? 0 : -1) : place - 1;
}
