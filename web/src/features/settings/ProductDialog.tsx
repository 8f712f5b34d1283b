import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  IconButton,
  MenuItem,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languageName, listed, t } from "../../words/words";
import { Confirm } from "../../parts/Confirm";
import { LanguagePicker } from "./LanguagePicker";
import "../../parts/listed.css";
import "../../parts/form.css";

type Product = Schemas["ProductReply"];

const KINDS = ["game", "panel", "app", "site"] as const;

interface Props {
  /** The product to change, null for a new one. */
  product: Product | null;
  /** The table that a new product is made of: it uses it, in all its languages. */
  of?: Schemas["TableReply"];
  tables: Schemas["TableReply"][];
  /** Told the product as it is kept, nothing when it was removed. */
  onDone: (kept?: Product) => void;
  onClose: () => void;
}

function newLanguage(language: Schemas["LanguageName"]): Product["languages"][number] {
  return { language, hidden: false, shownAs: "", fallbacks: [], prefix: "" };
}

function languagesOf(table: Schemas["TableReply"] | undefined): Product["languages"] {
  return table ? [table.source, ...table.languages.map((one) => one.language)].map(newLanguage) : [];
}

function listOf(words: string): string[] {
  return words.split(/[\s,;]+/).filter((one) => one !== "");
}

/** A product's name, kind, tables, and languages in order with their selector numbers. */
export function ProductDialog({ product, of, tables, onDone, onClose }: Props) {
  const [name, setName] = useState(product?.name ?? of?.name ?? "");
  const [kind, setKind] = useState(product?.kind ?? "app");
  const [uses, setUses] = useState<string[]>(product?.tables.map((one) => one.slug) ?? (of ? [of.slug] : []));
  const [languages, setLanguages] = useState<Product["languages"]>(product?.languages ?? languagesOf(of));
  const [start, setStart] = useState(product?.start ?? "");
  const [hosts, setHosts] = useState<Record<string, string>>(product?.hosts ?? {});
  // As it was typed, so that a comma can be.
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [typedHosts, setTypedHosts] = useState<Record<string, string>>({});
  const [wrong, setWrong] = useState<string | null>(null);
  const [removing, setRemoving] = useState(false);
  const address = product ? `/api/products/${encodeURIComponent(product.slug)}` : "/api/products";
  const run = (work: Promise<Product | undefined>) => {
    setWrong(null);
    work.then(onDone).catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  const missing = [
    ...(name.trim() === "" ? [t("missing.name")] : []),
    ...(product === null && uses.length === 0 ? [t("missing.tables")] : []),
  ];
  const save = () => {
    if (missing.length > 0) {
      setWrong(t("missing.say", { what: listed(missing) }));
      return;
    }
    run(
      ask<Product>(address, {
        method: product ? "PUT" : "POST",
        json: {
          version: product?.version ?? 0,
          name,
          kind,
          tables: uses,
          languages: languages.map((one) => ({
            tag: one.language.tag,
            selector: one.selector,
            hidden: one.hidden,
            shownAs: one.shownAs === "" || one.shownAs === one.language.ownName ? undefined : one.shownAs,
            fallbacks: one.fallbacks,
            prefix: one.prefix,
          })),
          start: start === "" ? undefined : start,
          hosts:
            kind === "site" ? Object.fromEntries(Object.entries(hosts).filter(([, tag]) => has(tag))) : product?.hosts,
        },
      }),
    );
  };
  const has = (tag: string) => languages.some((one) => one.language.tag === tag);
  const hostsOf = (tag: string) => Object.keys(hosts).filter((host) => hosts[host] === tag);
  const startHosts = (tag: string, words: string) => {
    setTypedHosts({ ...typedHosts, [tag]: words });
    const others = Object.entries(hosts).filter(([, of]) => of !== tag);
    setHosts(Object.fromEntries([...others, ...listOf(words).map((host) => [host, tag])]));
  };
  const change = (tag: string, some: Partial<Product["languages"][number]>) =>
    setLanguages(languages.map((one) => (one.language.tag === tag ? { ...one, ...some } : one)));
  const move = (at: number, by: number) => {
    const next = [...languages];
    const [one] = next.splice(at, 1);
    if (one) next.splice(at + by, 0, one);
    setLanguages(next);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="lg" aria-labelledby="product-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <DialogTitle id="product-title">{product ? product.name : t("products.new")}</DialogTitle>
        <DialogContent className="entry-form two product">
          <div>
            <TextField
              label={t("settings.name")}
              size="small"
              autoFocus
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <TextField
              label={t("products.kind")}
              size="small"
              select
              value={kind}
              onChange={(event) => setKind(event.target.value)}
            >
              {KINDS.map((one) => (
                <MenuItem key={one} value={one}>
                  {t(`kind.${one}`)}
                </MenuItem>
              ))}
            </TextField>
            <fieldset className="bare tables">
              <legend>{t("products.tables")}</legend>
              {tables.map((table) => (
                <FormControlLabel
                  key={table.slug}
                  control={
                    <Checkbox
                      size="small"
                      checked={uses.includes(table.slug)}
                      onChange={(_, on) =>
                        setUses(on ? [...uses, table.slug] : uses.filter((slug) => slug !== table.slug))
                      }
                    />
                  }
                  label={table.name}
                />
              ))}
            </fieldset>
          </div>
          <div>
            <table className="listed">
              <thead>
                <tr>
                  <th scope="col">{t("settings.language")}</th>
                  <th scope="col">{t("products.selector")}</th>
                  <th scope="col">{t("products.shownAs")}</th>
                  <th scope="col">{t("products.fallbacks")}</th>
                  {kind === "site" && <th scope="col">{t("products.prefix")}</th>}
                  {kind === "site" && <th scope="col">{t("products.hosts")}</th>}
                  <th scope="col">{t("products.hidden")}</th>
                  <td />
                </tr>
              </thead>
              <tbody>
                {languages.map(({ language, selector, hidden, shownAs, fallbacks, prefix }, at) => (
                  <tr key={language.tag}>
                    <th scope="row">{languageName(language)}</th>
                    <td>
                      <TextField
                        size="small"
                        type="number"
                        value={selector ?? ""}
                        slotProps={{
                          htmlInput: { "aria-label": t("products.selectorOf", { language: languageName(language) }) },
                        }}
                        onChange={(event) => {
                          const n = event.target.value === "" ? undefined : Math.floor(Number(event.target.value));
                          change(language.tag, { selector: n });
                        }}
                      />
                    </td>
                    <td>
                      <TextField
                        size="small"
                        value={shownAs === language.ownName ? "" : shownAs}
                        placeholder={language.ownName}
                        slotProps={{
                          htmlInput: { "aria-label": t("products.shownAsOf", { language: languageName(language) }) },
                        }}
                        onChange={(event) => change(language.tag, { shownAs: event.target.value })}
                      />
                    </td>
                    <td>
                      <TextField
                        size="small"
                        value={typed[language.tag] ?? fallbacks.join(", ")}
                        slotProps={{
                          htmlInput: { "aria-label": t("products.fallbacksOf", { language: languageName(language) }) },
                        }}
                        onChange={(event) => {
                          setTyped({ ...typed, [language.tag]: event.target.value });
                          change(language.tag, {
                            fallbacks: listOf(event.target.value),
                          });
                        }}
                      />
                    </td>
                    {kind === "site" && (
                      <td>
                        <TextField
                          size="small"
                          value={prefix}
                          slotProps={{
                            htmlInput: { "aria-label": t("products.prefixOf", { language: languageName(language) }) },
                          }}
                          onChange={(event) => change(language.tag, { prefix: event.target.value })}
                        />
                      </td>
                    )}
                    {kind === "site" && (
                      <td>
                        <TextField
                          size="small"
                          value={typedHosts[language.tag] ?? hostsOf(language.tag).join(", ")}
                          slotProps={{
                            htmlInput: { "aria-label": t("products.hostsOf", { language: languageName(language) }) },
                          }}
                          onChange={(event) => startHosts(language.tag, event.target.value)}
                        />
                      </td>
                    )}
                    <td>
                      <Checkbox
                        size="small"
                        checked={hidden}
                        slotProps={{
                          input: { "aria-label": t("products.hiddenOf", { language: languageName(language) }) },
                        }}
                        onChange={(_, on) => change(language.tag, { hidden: on })}
                      />
                    </td>
                    <td className="order">
                      <IconButton
                        size="small"
                        disabled={at === 0}
                        aria-label={t("settings.up", { language: languageName(language) })}
                        onClick={() => move(at, -1)}
                      >
                        ↑
                      </IconButton>
                      <Button
                        size="small"
                        color="error"
                        onClick={() => setLanguages(languages.filter((one) => one.language.tag !== language.tag))}
                      >
                        {t("settings.remove")}
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <LanguagePicker
              label={t("settings.addLanguage")}
              onPick={(language) => {
                if (!languages.some((one) => one.language.tag === language.tag)) {
                  setLanguages([...languages, newLanguage(language)]);
                }
              }}
            />
            <TextField
              label={t("products.start")}
              size="small"
              select
              value={start}
              onChange={(event) => setStart(event.target.value)}
            >
              <MenuItem value="">{t("products.startSource")}</MenuItem>
              {languages.map(({ language }) => (
                <MenuItem key={language.tag} value={language.tag}>
                  {languageName(language)}
                </MenuItem>
              ))}
            </TextField>
          </div>
          {wrong && (
            <Alert severity="error" className="wide">
              {wrong}
            </Alert>
          )}
        </DialogContent>
        <DialogActions>
          {product && (
            <Button color="error" onClick={() => setRemoving(true)} sx={{ marginRight: "auto" }}>
              {t("products.remove")}
            </Button>
          )}
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained">
            {t("save")}
          </Button>
        </DialogActions>
      </form>
      {removing && product && (
        <Confirm
          title={t("products.removeTitle", { product: product.name })}
          words={t("products.removeWords")}
          action={t("products.remove")}
          onYes={() => run(ask<undefined>(address, { method: "DELETE" }))}
          onNo={() => setRemoving(false)}
        />
      )}
    </Dialog>
  );
}
