import { Alert, Checkbox, FormControlLabel } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { listed, t, type WordKey } from "../../words/words";

/** As many keys are named before the rest is a number. */
const NAMED = 10;

interface Props {
  base: string;
  query: URLSearchParams;
  leaveOut: boolean;
  onLeaveOut: (leaveOut: boolean) => void;
}

/** What fresh files would not hold, told before they are sent. */
export function Losses({ base, query, leaveOut, onLeaveOut }: Props) {
  const losses = useQuery({
    queryKey: ["export-losses", base, query.toString()],
    queryFn: ({ signal }) => ask<Schemas["LossesReply"]>(`${base}/losses?${query}`, { signal }),
    placeholderData: keepPreviousData,
  });
  if (losses.error) return <Alert severity="error">{sentenceOf(losses.error)}</Alert>;
  if (!losses.data) return null;
  const { counts, refused, refusedCount, why } = losses.data;
  const lost = Object.entries(counts);
  return (
    <div className="losses" aria-busy={losses.isFetching}>
      {refusedCount > 0 && (
        <Alert severity="error">
          {t("export.cannot", { n: refusedCount })} {listed(refused.slice(0, NAMED))}
          {refusedCount > NAMED && ` ${t("export.more", { n: refusedCount - NAMED })}`}
          <br />
          {why}
          <br />
          <FormControlLabel
            control={
              <Checkbox size="small" checked={leaveOut} onChange={(event) => onLeaveOut(event.target.checked)} />
            }
            label={t("export.leaveOut", { n: refusedCount })}
          />
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
