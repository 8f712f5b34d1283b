import { Button, IconButton, TextField } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import type { AssetSet } from "./useAssetSet";
import { useTyped } from "./useTyped";

const PLACES = { key: "{key}", language: "{language}", ext: "{ext}", folder: "{folder}" };

interface Props {
  set: AssetSet;
  busy: boolean;
  onPatterns: (change: (now: string[]) => string[]) => void;
}

/** How names are made: what was found out, to be corrected. */
export function AssetPatterns({ set, busy, onPatterns }: Props) {
  const patterns = set.options.patterns;
  /** One is added behind so many, until there is one more. */
  const [behind, setBehind] = useState(0);
  const adding = behind === patterns.length;
  const shown = adding ? [...patterns, ""] : patterns;
  const change = (was: string, text: string) =>
    onPatterns((now) =>
      (now.includes(was) ? now.map((one) => (one === was ? text : one)) : [...now, text]).filter((one) => one !== ""),
    );
  const others = set.proposed.filter((one) => !patterns.includes(one));
  return (
    <div className="patterns">
      {patterns.length === 0 && <p className="soft">{t("assets.noPattern")}</p>}
      {shown.map((pattern, at) => (
        <div key={at} className="pattern">
          <PatternField
            label={t("assets.pattern", { n: at + 1 })}
            pattern={pattern}
            busy={busy}
            onPattern={(text) => change(pattern, text)}
          />
          {pattern !== "" && (
            <IconButton
              size="small"
              aria-label={t("assets.dropPattern", { n: at + 1 })}
              onClick={() => change(pattern, "")}
            >
              ×
            </IconButton>
          )}
        </div>
      ))}
      <div>
        {patterns.length > 0 && !adding && (
          <Button size="small" onClick={() => setBehind(patterns.length)}>
            {t("assets.addPattern")}
          </Button>
        )}
        {others.length > 0 && (
          <span className="soft">
            {t("assets.proposed")}{" "}
            {others.map((one) => (
              <button
                key={one}
                type="button"
                className="picker mono"
                disabled={busy}
                onClick={() => onPatterns((now) => [...now, one])}
              >
                {one}
              </button>
            ))}
          </span>
        )}
      </div>
      <p className="soft">{t("assets.places", PLACES)}</p>
    </div>
  );
}

function PatternField({
  label,
  pattern,
  busy,
  onPattern,
}: {
  label: string;
  pattern: string;
  busy: boolean;
  onPattern: (text: string) => void;
}) {
  const field = useTyped(pattern, busy, onPattern);
  return (
    <TextField
      size="small"
      fullWidth
      label={label}
      slotProps={{ htmlInput: { className: "mono", spellCheck: false, dir: "ltr" } }}
      {...field}
    />
  );
}
