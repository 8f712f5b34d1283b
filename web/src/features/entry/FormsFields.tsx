import { Button, TextField } from "@mui/material";
import { useState } from "react";
import { sentenceOf } from "../../api/client";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { storeAsset } from "../../sheet/AssetEditor";
import { fieldsOf, MAIN, type Forms } from "../../text/shapes";

interface Props {
  shape: string;
  /** The language of the text; its plural forms make the fields. */
  language: Schemas["LanguageName"] | undefined;
  forms: Forms;
  onForms: (forms: Forms) => void;
  label: string;
}

/** The forms of a source, a field each. States can be added and taken away at the end. */
export function FormsFields({ shape, language, forms, onForms, label }: Props) {
  const [wrong, setWrong] = useState("");
  if (!language) return null;
  if (shape === "asset") {
    return (
      <div>
        <Button size="small" variant="outlined" component="label">
          {forms[MAIN] ?? t("asset.choose")}
          <input
            type="file"
            className="visually-hidden"
            aria-label={label}
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) storeAsset(file).then(onForms, (failure: unknown) => setWrong(sentenceOf(failure)));
            }}
          />
        </Button>
        {wrong && <p role="alert">{wrong}</p>}
      </div>
    );
  }
  const shown =
    shape === "states" && Object.keys(forms).filter((form) => form !== MAIN).length === 0 ? { "0": "" } : forms;
  const fields = fieldsOf(shape, language, shape === "states" ? shown : undefined);
  return (
    <>
      {fields.map((field, at) => (
        <TextField
          key={field.form}
          label={shape === "states" ? t("entry.state", { state: field.form }) : field.label || label}
          size="small"
          multiline
          fullWidth
          autoFocus={at === 0}
          value={forms[field.form] ?? ""}
          onFocus={({ target }) => target.setSelectionRange(target.value.length, target.value.length)}
          onChange={(event) => onForms({ ...forms, [field.form]: event.target.value })}
          slotProps={{ htmlInput: { lang: language.tag, dir: language.rightToLeft ? "rtl" : "ltr" } }}
        />
      ))}
      {shape === "states" && (
        <button type="button" className="picker" onClick={() => onForms({ ...shown, [String(fields.length)]: "" })}>
          {t("entry.addState")}
        </button>
      )}
    </>
  );
}
