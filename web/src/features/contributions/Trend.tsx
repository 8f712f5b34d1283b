import type { Schemas } from "../../api/client";
import { day, t } from "../../words/words";

const WEEKS = 12;
const WEEK_MS = 7 * 86_400_000;
const BAR = 9;
const HEIGHT = 26;

/** What was answered week by week: settled as offered, amended, returned. The drawing's label says the same in words. */
export function Trend({ weeks, to }: { weeks: Schemas["Week"][]; to: string }) {
  if (weeks.length === 0) return null;
  const last = mondayOf(to);
  const shown = Array.from({ length: WEEKS }, (_, at) => {
    const monday = new Date(last - (WEEKS - 1 - at) * WEEK_MS).toISOString().slice(0, 10);
    return weeks.find((week) => week.monday === monday) ?? { monday, settled: 0, amended: 0, returned: 0 };
  });
  const most = Math.max(1, ...shown.map((week) => week.settled + week.amended + week.returned));
  const said = shown
    .filter((week) => week.settled + week.amended + week.returned > 0)
    .map((week) => t("trend.week", { ...week, day: day(week.monday) }))
    .join("; ");
  return (
    <svg className="trend" width={WEEKS * BAR} height={HEIGHT} role="img" aria-label={said || t("trend.none")}>
      <title>{said}</title>
      {shown.map((week, at) => {
        let y = HEIGHT;
        return (["settled", "amended", "returned"] as const).map((kind) => {
          const height = (week[kind] / most) * HEIGHT;
          y -= height;
          return <rect key={`${at} ${kind}`} className={kind} x={at * BAR} y={y} width={BAR - 2} height={height} />;
        });
      })}
      <line x1={0} x2={WEEKS * BAR} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} />
    </svg>
  );
}

/** Midnight, UTC, of the Monday of the week that holds that day. */
function mondayOf(isoDay: string): number {
  const at = Date.parse(isoDay);
  const sinceMonday = (new Date(at).getUTCDay() + 6) % 7;
  return at - sinceMonday * 86_400_000;
}
