import { DateField } from "../../parts/DateField";
import { t } from "../../words/words";
import type { Period } from "./useContributions";

/** The first and the last day of a period. */
export function PeriodFields({ period, onPeriod }: { period: Period; onPeriod: (period: Period) => void }) {
  return (
    <>
      {(["from", "to"] as const).map((end) => (
        <DateField
          key={end}
          label={t(`period.${end}`)}
          value={period[end]}
          min={end === "from" ? undefined : period.from}
          max={end === "from" ? period.to : undefined}
          onDay={(value) => onPeriod({ ...period, [end]: value })}
        />
      ))}
    </>
  );
}
