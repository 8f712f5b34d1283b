import { Alert, Checkbox, FormControlLabel } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Losing } from "../../parts/Losing";
import { t } from "../../words/words";

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
  return (
    <Losing {...losses.data} busy={losses.isFetching}>
      <br />
      <FormControlLabel
        control={<Checkbox size="small" checked={leaveOut} onChange={(event) => onLeaveOut(event.target.checked)} />}
        label={t("export.leaveOut", { n: losses.data.refusedCount })}
      />
    </Losing>
  );
}
