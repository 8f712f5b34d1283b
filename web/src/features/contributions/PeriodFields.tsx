import { TextField } from "@mui/material";
import { t } from "../../words/words";
import type { Period } from "./useContributions";

/** The first and the last day of a period. */
export function PeriodFields({ period, onPeriod }: { period: Period; onPeriod: (period: Period) => void }) {
  return (
    <>
      {(["from", "to"] as const).map((end) => (
        <TextField
          key={end}
          size="small"
          type="date"
          label={t(`period.${end}`)}
          value={period[end]}
          slotProps={{
            inputLabel: { shrink: true },
            htmlInput: end === "from" ? { max: period.to } : { min: period.from },
          }}
          onChange={(event) => event.target.value && onPeriod({ ...period, [end]: event.target.value })}
        />
      ))}
    </>
  );
}
