import { NavLink, useLocation } from "react-router";
import { useBell } from "../features/bell";
import { useFindingCounts } from "../features/checks";
import { useDeliveries } from "../features/deliveries";
import { useIntakes } from "../features/intake";
import { readScope, writeScope, type Scope } from "../scope/scope";
import { languagesOf, left } from "../scope/scopeTables";
import { useTables } from "../scope/useTables";
import { reviewsIn, type Person } from "../session/useSession";
import { t } from "../words/words";

/** The thumb tabs: every screen, with what waits there. */
export function Tabs({ scope, me }: { scope: Scope | undefined; me: Person }) {
  const tables = useTables();
  const { search } = useLocation();
  // The scope stays the same from screen to screen, because it lives in the address.
  const kept = scope ? writeScope(readScope(new URLSearchParams(search))) : "";
  const at = (path: string) => (kept ? `${path}?${kept}` : path);
  const all = tables.data ?? [];
  const toDecide = useIntakes().data?.filter((intake) => intake.status === "open").length ?? 0;
  const toSettle = languagesOf(all).reduce((sum, language) => sum + left(language, "entries"), 0);
  const toReview = languagesOf(all)
    .filter(({ language }) => reviewsIn(me, language.tag))
    .reduce((sum, { states }) => sum + (states.offered ?? 0), 0);
  const cameBack = (useBell().data ?? [])
    .filter((notice) => notice.kind === "CAME_BACK")
    .reduce((sum, notice) => sum + notice.n, 0);
  const toMend = useFindingCounts("").data?.toMend ?? 0;
  const toDeliver = (useDeliveries().data ?? []).filter(
    (one) => one.recipes > 0 && (one.changed > 0 || !one.last),
  ).length;
  const entries = all.reduce((sum, table) => sum + table.entries, 0);
  return (
    <nav className="tabs" aria-label={t("tabs.label")}>
      <NavLink to={at("/board")}>
        {t("tabs.board")}
        {tables.data && <small>{t("tabs.left", { n: toSettle })}</small>}
      </NavLink>
      <NavLink to={at("/ledger")}>
        {t("tabs.ledger")}
        {tables.data && <small>{t("scope.entries", { n: entries })}</small>}
      </NavLink>
      <NavLink to="/review">
        {t("tabs.review")}
        {toReview > 0 && <small>{t("tabs.toReview", { n: toReview })}</small>}
      </NavLink>
      <NavLink to={at("/checks")}>
        {t("tabs.checks")}
        {toMend > 0 && <small>{t("tabs.toMend", { n: toMend })}</small>}
      </NavLink>
      {Object.values(me.levels).some((level) => level !== "reader") && (
        <NavLink to="/offers">
          {t("tabs.offers")}
          {cameBack > 0 && <small>{t("tabs.cameBack", { n: cameBack })}</small>}
        </NavLink>
      )}
      <NavLink to="/intake">
        {t("tabs.intake")}
        {toDecide > 0 && <small>{t("tabs.toDecide", { n: toDecide })}</small>}
      </NavLink>
      <NavLink to="/rehearsal">{t("tabs.rehearsal")}</NavLink>
      <NavLink to="/deliveries">
        {t("tabs.deliveries")}
        {toDeliver > 0 && <small>{t("tabs.waits", { n: toDeliver })}</small>}
      </NavLink>
      <NavLink to="/memory">{t("tabs.memory")}</NavLink>
      <NavLink to="/wordbook">{t("tabs.wordbook")}</NavLink>
      <NavLink to="/products">{t("tabs.products")}</NavLink>
      <NavLink to="/people">{t("tabs.people")}</NavLink>
    </nav>
  );
}
