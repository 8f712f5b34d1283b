import { Alert } from "@mui/material";
import type { ReactNode } from "react";
import { listed, t, type WordKey } from "../words/words";
import "./losing.css";

/** As many keys are named before the rest is a number. */
const NAMED = 10;

interface Props {
  /** How many entries or texts are concerned, by what is lost of them. */
  counts: Record<string, number>;
  /** Keys of entries that cannot be written, the first of them. */
  refused: string[];
  refusedCount: number;
  /** The sentence about the first of them. */
  why?: string | undefined;
  busy?: boolean;
  /** What can be done about those that cannot be written. */
  children?: ReactNode;
}

/** What files do not hold, told before they are written. */
export function Losing({ counts, refused, refusedCount, why, busy = false, children }: Props) {
  const lost = Object.entries(counts);
  return (
    <div className="losing" aria-busy={busy}>
      {refusedCount > 0 && (
        <Alert severity="error">
          {t("export.cannot", { n: refusedCount })} {listed(refused.slice(0, NAMED))}
          {refusedCount > NAMED && ` ${t("export.more", { n: refusedCount - NAMED })}`}
          <br />
          {why}
          {children}
        </Alert>
      )}
      {lost.length > 0 && (
        <Alert severity="info">
          {t("export.losing")}
          <ul>
            {lost.map(([aspect, n]) => (
              <li key={aspect}>{t(`export.loss.${aspect}` as WordKey, { n })}</li>
            ))}
          </ul>
          {t("export.stays")}
        </Alert>
      )}
    </div>
  );
}
