import { Alert, Button, MenuItem, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languageName, nameOfTag, t } from "../../words/words";
import { FINDINGS } from "./useFindings";

/** The fonts of a product, and the letters that its texts use in a language. */
export function FontsField({ product, editable }: { product: Schemas["ProductReply"]; editable: boolean }) {
  const [size, setSize] = useState("16");
  const [language, setLanguage] = useState("");
  const [looked, setLooked] = useState(product.languages[0]?.language.tag ?? "");
  const [wrong, setWrong] = useState("");
  const queries = useQueryClient();
  const address = `/api/products/${encodeURIComponent(product.slug)}`;
  const fonts = useQuery({
    queryKey: ["fonts", product.slug],
    queryFn: ({ signal }) => ask<Schemas["FontReply"][]>(`${address}/fonts`, { signal }),
  });
  const letters = useQuery({
    queryKey: [FINDINGS, "letters", product.slug, looked],
    queryFn: ({ signal }) =>
      ask<Schemas["LettersReply"]>(`${address}/letters?in=${encodeURIComponent(looked)}`, { signal }),
    enabled: looked !== "",
  });
  const run = (work: Promise<unknown>) => {
    setWrong("");
    work
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => {
        void queries.invalidateQueries({ queryKey: ["fonts", product.slug] });
        void queries.invalidateQueries({ queryKey: [FINDINGS] });
      });
  };
  const put = (file: File) => {
    const query = new URLSearchParams({ size, ...(language ? { language } : {}) });
    run(ask(`${address}/fonts?${query.toString()}`, { method: "POST", bytes: file }));
  };
  const lacking = letters.data?.used.filter((letter) => letter.lacking) ?? [];
  const named = nameOfTag(looked, product.languages);
  return (
    <section className="fonts">
      <h3>{t("checks.fonts")}</h3>
      <p className="soft">{t("checks.fontsWords")}</p>
      <ul>
        {fonts.data?.map((font) => (
          <li key={font.id}>
            {t("checks.fontLine", {
              name: font.name,
              size: font.size,
              language: font.language ? nameOfTag(font.language, product.languages) : t("checks.fontAll"),
            })}
            {editable && (
              <Button size="small" onClick={() => run(ask(`${address}/fonts/${font.id}`, { method: "DELETE" }))}>
                {t("checks.fontRemove", { name: font.name })}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {editable && (
        <div className="pair">
          <TextField
            size="small"
            type="number"
            label={t("checks.fontSize")}
            value={size}
            slotProps={{ htmlInput: { min: 4, max: 400 } }}
            onChange={(event) => setSize(event.target.value)}
          />
          <TextField
            select
            size="small"
            label={t("checks.fontLanguage")}
            value={language}
            onChange={(event) => setLanguage(event.target.value)}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          >
            <MenuItem value="">{t("checks.fontAll")}</MenuItem>
            {product.languages.map((one) => (
              <MenuItem key={one.language.tag} value={one.language.tag}>
                {languageName(one.language)}
              </MenuItem>
            ))}
          </TextField>
          <Button component="label" variant="outlined" size="small">
            {t("checks.fontAdd")}
            <input
              type="file"
              className="visually-hidden"
              accept=".ttf,.otf"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                if (file) put(file);
              }}
            />
          </Button>
        </div>
      )}
      {wrong && <Alert severity="error">{wrong}</Alert>}
      {product.languages.length > 0 && (
        <div className="letters">
          <TextField
            select
            size="small"
            margin="dense"
            label={t("checks.lettersOf")}
            value={looked}
            onChange={(event) => setLooked(event.target.value)}
          >
            {product.languages.map((one) => (
              <MenuItem key={one.language.tag} value={one.language.tag}>
                {languageName(one.language)}
              </MenuItem>
            ))}
          </TextField>
          <p role="status">
            {t("checks.letters", { language: named })}:{" "}
            {lacking.length > 0
              ? t("checks.lettersLacking", {
                  n: lacking.length,
                  letters: lacking.map((one) => one.letter).join(" "),
                })
              : t("checks.lettersFine", { n: letters.data?.used.length ?? 0 })}
          </p>
          <Button size="small" component="a" href={`${address}/letters.txt?in=${encodeURIComponent(looked)}`} download>
            {t("checks.lettersDownload", { language: named })}
          </Button>
        </div>
      )}
    </section>
  );
}
