import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf } from "../../api/client";
import { useProducts } from "../../scope/useTables";
import { nameOfTag, t } from "../../words/words";
import type { WordKey } from "../../words/spoken";
import { BEGINNINGS, CHARSETS, FORMATS, formatName, inFiles, TOGETHER } from "./recipes";
import { RecipeExamples } from "./RecipeExamples";
import type { Recipe, Settings } from "./useDeliveries";
import "../../parts/form.css";
import "../../parts/pages.css";

interface Props {
  slug: string;
  /** The recipe to change, null for a new one. */
  recipe: Recipe | null;
  /** Tags of the product's languages. */
  languages: string[];
  onDone: () => void;
  onClose: () => void;
}

/** One thing that a product gets, with what it would make beside it while one chooses. */
export function RecipeDialog({ slug, recipe, languages, onDone, onClose }: Props) {
  const [name, setName] = useState(recipe?.name ?? "");
  const [settings, setSettings] = useState<Settings>(recipe?.settings ?? BEGINNINGS.texts);
  const [active, setActive] = useState(recipe?.active ?? true);
  const [wrong, setWrong] = useState("");
  const address = `/api/products/${encodeURIComponent(slug)}/recipes`;
  const set = (some: Partial<Settings>) => setSettings({ ...settings, ...some });
  const texts = settings.kind === "texts";
  const assets = settings.kind === "assets";
  const ofTables = texts || assets || settings.kind === "keys";
  const inPlace = settings.files === "place";
  const separated = settings.format === "csv";
  const tables = (useProducts().data ?? []).find((one) => one.slug === slug)?.tables ?? [];
  const uses = (table: string) => !settings.tables || settings.tables.length === 0 || settings.tables.includes(table);
  const [busy, setBusy] = useState(false);
  const run = (work: Promise<unknown>) => {
    setBusy(true);
    work
      .then(onDone)
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  const save = (as: Recipe | null) => {
    if (name.trim() === "") {
      setWrong(t("missing.say", { what: t("missing.name") }));
      return;
    }
    run(
      ask(as ? `${address}/${as.id}` : address, {
        method: as ? "PUT" : "POST",
        json: { name: name.trim(), settings, active, version: as?.version ?? 0 },
      }),
    );
  };
  const choice = (
    label: WordKey,
    value: string,
    values: readonly string[],
    words: string,
    to: (one: string) => void,
  ) => (
    <TextField select size="small" label={t(label)} value={value} onChange={(event) => to(event.target.value)}>
      {values.map((one) => (
        <MenuItem key={one} value={one}>
          {t(`${words}.${one}` as WordKey)}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="lg" aria-labelledby="recipe-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save(recipe);
        }}
      >
        <DialogTitle id="recipe-title">{recipe ? recipe.name : t("recipe.new")}</DialogTitle>
        <DialogContent className="entry-form two recipeform">
          <div>
            <TextField
              label={t("settings.name")}
              size="small"
              autoFocus
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            {!recipe &&
              choice("recipe.kind", settings.kind, Object.keys(BEGINNINGS), "recipe.kind", (kind) =>
                setSettings(BEGINNINGS[kind as keyof typeof BEGINNINGS]),
              )}
            {!inPlace && (
              <TextField
                select
                size="small"
                label={t("recipe.format")}
                value={settings.format}
                onChange={(event) =>
                  set({
                    format: event.target.value,
                    files:
                      TOGETHER.has(event.target.value) || settings.files !== "one" || !texts ? settings.files : "each",
                    charset: event.target.value === "csv" ? settings.charset : "utf-8",
                  })
                }
              >
                {(FORMATS[settings.kind] ?? []).map((one) => (
                  <MenuItem key={one} value={one}>
                    {formatName(one)}
                  </MenuItem>
                ))}
              </TextField>
            )}
            {texts &&
              choice(
                "recipe.files",
                settings.files,
                TOGETHER.has(settings.format) ? ["each", "table", "one", "place"] : ["each", "table", "place"],
                "recipe.files",
                (files) => setSettings(inFiles(settings, files)),
              )}
            <TextField
              label={t("recipe.pattern")}
              size="small"
              value={settings.pattern}
              helperText={inPlace ? t("recipe.pathWords", { place: "{path}" }) : t("recipe.patternWords")}
              onChange={(event) => set({ pattern: event.target.value })}
            />
            {settings.kind !== "keys" &&
              choice("recipe.which", settings.which, ["visible", "all", "chosen"], "recipe.which", (which) =>
                set({ which, languages: which === "chosen" ? languages : [] }),
              )}
            {settings.which === "chosen" && (
              <fieldset className="bare tables">
                <legend>{t("products.languages")}</legend>
                {languages.map((tag) => (
                  <FormControlLabel
                    key={tag}
                    label={nameOfTag(tag)}
                    control={
                      <Checkbox
                        size="small"
                        checked={settings.languages.includes(tag)}
                        onChange={(_, on) =>
                          set({
                            languages: languages.filter((one) => (one === tag ? on : settings.languages.includes(one))),
                          })
                        }
                      />
                    }
                  />
                ))}
              </fieldset>
            )}
            {ofTables && tables.length > 1 && (
              <fieldset className="bare tables">
                <legend>{t("products.tables")}</legend>
                {tables.map((table) => (
                  <FormControlLabel
                    key={table.slug}
                    label={table.name}
                    control={
                      <Checkbox
                        size="small"
                        checked={uses(table.slug)}
                        onChange={(_, on) => {
                          const some = tables
                            .map((one) => one.slug)
                            .filter((one) => (one === table.slug ? on : uses(one)));
                          // All of them means those that come later, too.
                          set({ tables: some.length === tables.length ? [] : some });
                        }}
                      />
                    }
                  />
                ))}
              </fieldset>
            )}
            {(texts || assets) &&
              choice(
                "recipe.texts",
                settings.texts,
                ["settled", "fresh", "pencilled", "offered"],
                "recipe.texts",
                (one) => set({ texts: one }),
              )}
            {(texts || assets) &&
              choice(
                "recipe.hole",
                settings.hole,
                assets ? ["out", "borrowed", "source"] : ["out", "empty", "borrowed", "source", "key"],
                "recipe.hole",
                (hole) => set({ hole }),
              )}
            {separated &&
              choice("recipe.delimiter", settings.delimiter, ["comma", "semicolon", "tab"], "delimiter", (delimiter) =>
                set({ delimiter }),
              )}
            {separated && (
              <TextField
                select
                size="small"
                label={t("recipe.charset")}
                value={settings.charset}
                onChange={(event) => set({ charset: event.target.value })}
              >
                {CHARSETS.map((one) => (
                  <MenuItem key={one} value={one}>
                    {one}
                  </MenuItem>
                ))}
              </TextField>
            )}
            {texts && separated && (
              <Tick label={t("recipe.guard")} on={settings.guard} onChange={(guard) => set({ guard })} />
            )}
            {(settings.format === "json" || settings.format === "yaml") && texts && (
              <Tick label={t("recipe.nested")} on={settings.nested} onChange={(nested) => set({ nested })} />
            )}
            {settings.format === "json" && texts && settings.nested && (
              <Tick label={t("recipe.ascii")} on={settings.ascii} onChange={(ascii) => set({ ascii })} />
            )}
            {texts && !inPlace && (
              <TextField
                label={t("recipe.leftOut")}
                size="small"
                value={settings.prefix}
                helperText={t("recipe.leftOutWords")}
                onChange={(event) => set({ prefix: event.target.value })}
              />
            )}
            {settings.kind === "keys" && settings.format !== "typescript" && (
              <TextField
                label={t(settings.format === "java" ? "recipe.class" : "recipe.prefix")}
                size="small"
                value={settings.prefix}
                onChange={(event) => set({ prefix: event.target.value })}
              />
            )}
            {settings.kind === "keys" && settings.format === "java" && (
              <TextField
                label={t("recipe.namespace")}
                size="small"
                value={settings.namespace}
                onChange={(event) => set({ namespace: event.target.value })}
              />
            )}
            {settings.kind === "keys" && (
              <Tick label={t("recipe.numbers")} on={settings.numbers} onChange={(numbers) => set({ numbers })} />
            )}
            {recipe && <Tick label={t("recipe.active")} on={active} onChange={setActive} />}
          </div>
          <RecipeExamples slug={slug} settings={settings} />
          {wrong && (
            <Alert severity="error" className="wide">
              {wrong}
            </Alert>
          )}
        </DialogContent>
        <DialogActions>
          {recipe && (
            <>
              <Button
                color="error"
                disabled={busy}
                onClick={() => run(ask(`${address}/${recipe.id}?version=${recipe.version}`, { method: "DELETE" }))}
                sx={{ marginRight: "auto" }}
              >
                {t("recipe.remove")}
              </Button>
              <Button onClick={() => save(null)} disabled={busy || name.trim() === recipe.name}>
                {t("recipe.copy")}
              </Button>
            </>
          )}
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            {t("save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <FormControlLabel
      label={label}
      control={<Checkbox size="small" checked={on} onChange={(_, now) => onChange(now)} />}
    />
  );
}
