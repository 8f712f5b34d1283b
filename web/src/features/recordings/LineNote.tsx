import { Button } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf } from "../../api/client";
import { ledgerAt } from "../../scope/scope";
import { useTables } from "../../scope/useTables";
import type { Row } from "../../sheet/rowStore";
import { t } from "../../words/words";

interface Props {
  row: Row;
  /** The language that is worked in, which links keep. */
  language: string;
  coordinator: boolean;
  onSay: (sentence: string) => void;
  onChanged: () => void;
}

/** Which line a recording speaks, and whether its source was rewritten since. */
export function LineNote({ row, language, coordinator, onSay, onChanged }: Props) {
  const tables = useTables();
  const [busy, setBusy] = useState(false);
  const line = row.line;
  if (!line) return null;
  const source = tables.data?.find((table) => table.slug === row.table)?.source.tag;
  const moved = source !== undefined && line.moved.includes(source);
  const fits = () => {
    setBusy(true);
    ask(`/api/entries/${row.id}/line`, { method: "PUT", json: { table: line.table, key: line.key } })
      .then(onChanged)
      .catch((failure: unknown) => onSay(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  return (
    <>
      <p>
        {t("line.speaksBefore")}{" "}
        <Link to={`${ledgerAt({ tables: [line.table], languages: [language] })}&entry=${line.entry}`}>
          <bdi>{line.key}</bdi>
        </Link>
      </p>
      {moved && (
        <p className="stale">
          {t("line.sourceRewritten")}{" "}
          {coordinator && (
            <Button size="small" disabled={busy} onClick={fits}>
              {t("line.fits")}
            </Button>
          )}
        </p>
      )}
    </>
  );
}
