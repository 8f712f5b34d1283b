import { Button, IconButton, TextField } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import { useOnce } from "./useOnce";
import type { AssetSet } from "./useAssetSet";

const PLACES = { key: "{key}", language: "{language}", ext: "{ext}", folder: "{folder}" };

interface Props {
  set: AssetSet;
  busy: boolean;
  onPatterns: (patterns: string[]) => void;
}

/** How names are made: what was found out, to be corrected. */
export function AssetPatterns({ set, busy, onPatterns }: Props) {
  const patterns = set.options.patterns;
  const [adding, setAdding] = useState(false);
  const shown = adding || patterns.length === 0 ? [...patterns, ""] : patterns;
  const change = (at: number, text: string) => {
    setAdding(false);
    const next = shown.map((one, n) => (n === at ? text.trim() : one)).filter((one) => one !== "");
    if (next.join("\n") !== patterns.join("\n")) onPatterns(next);
  };
  const others = set.proposed.filter((one) => !patterns.includes(one));
  return (
    <div className="patterns">
      {patterns.length === 0 && <p className="soft">{t("assets.noPattern")}</p>}
      {shown.map((pattern, at) => (
        <div key={`${at} ${pattern}`} className="pattern">
          <PatternField
            label={t("assets.pattern", { n: at + 1 })}
            pattern={pattern}
            busy={busy}
            onPattern={(text) => change(at, text)}
          />
          {pattern !== "" && (
            <IconButton
              size="small"
              aria-label={t("assets.dropPattern", { n: at + 1 })}
              disabled={busy}
              onClick={() => change(at, "")}
            >
              ×
            </IconButton>
          )}
        </div>
      ))}
      <div>
        {patterns.length > 0 && !adding && (
          <Button size="small" disabled={busy} onClick={() => setAdding(true)}>
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
                onClick={() => onPatterns([...patterns, one])}
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
  const [text, setText] = useState(pattern);
  const once = useOnce(pattern, onPattern);
  const send = () => once(text.trim());
  return (
    <TextField
      size="small"
      fullWidth
      label={label}
      value={text}
      disabled={busy}
      slotProps={{ htmlInput: { className: "mono", spellCheck: false, dir: "ltr" } }}
      onChange={(event) => setText(event.target.value)}
      onBlur={send}
      onKeyDown={(event) => event.key === "Enter" && send()}
    />
  );
}
