import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import type { Person } from "../../session/useSession";
import { count, t } from "../../words/words";
import { DraftsView } from "./DraftsView";
import { FillsView } from "./FillsView";
import { SearchView } from "./SearchView";
import { ShelvesView } from "./ShelvesView";
import "./memory.css";

const VIEWS = ["search", "fills", "shelves", "drafts"] as const;
type View = (typeof VIEWS)[number];

/** The memory: what was settled, here and elsewhere, and what machines may draft. */
export function MemoryPage({ me }: { me: Person }) {
  const [query] = useSearchParams();
  const views = VIEWS.filter((view) => me.coordinator || view === "search" || view === "fills");
  const view: View = views.find((one) => one === query.get("view")) ?? "search";
  const state = useQuery({
    queryKey: ["memory", "state"],
    queryFn: ({ signal }) => ask<Schemas["MemoryState"]>("/api/memory", { signal }),
    enabled: me.coordinator,
    refetchInterval: (now) => (now.state.data?.ready === false ? 2_000 : false),
  });
  return (
    <Frame title={t("memory.page")}>
      <div className="memorypage">
        <nav className="views" aria-label={t("memory.views")}>
          {views.map((one) => (
            <Link key={one} to={`/memory?view=${one}`} replace aria-current={one === view ? "page" : undefined}>
              {t(`memory.view.${one}`)}
            </Link>
          ))}
          {state.data && <span className="soft">{stateSaid(state.data)}</span>}
        </nav>
        {view === "search" && <SearchView me={me} />}
        {view === "fills" && <FillsView />}
        {view === "shelves" && <ShelvesView />}
        {view === "drafts" && <DraftsView />}
      </div>
    </Frame>
  );
}

/** How the memory is kept on the server that was asked. */
function stateSaid({ ready, tooLarge, units, sources, bytes, mostBytes }: Schemas["MemoryState"]): string {
  const megabytes = (amount: number) => count(Math.max(1, Math.round(amount / 1_048_576)));
  if (tooLarge) return t("memory.tooLarge", { most: megabytes(mostBytes) });
  return ready
    ? t("memory.state", { n: units, sources, used: megabytes(bytes), most: megabytes(mostBytes) })
    : t("memory.notReady");
}
