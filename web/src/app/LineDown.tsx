import { Alert } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { lineIsUp, subscribeToLine } from "../api/line";
import { waiting } from "../sheet/outbox/waiting";
import { t } from "../words/words";

/** Says that nothing can be had from the server just now, and goes on by itself as soon as there can: what failed is asked for again, what waits is sent. */
export function LineDown() {
  const up = useSyncExternalStore(subscribeToLine, lineIsUp);
  const queries = useQueryClient();
  useEffect(
    () =>
      subscribeToLine((now) => {
        if (!now) return;
        waiting.now();
        void queries.invalidateQueries({ predicate: (query) => query.state.status === "error" || query.isStale() });
      }),
    [queries],
  );
  if (up) return null;
  return (
    <Alert className="linedown" severity="warning" role="status">
      {t("line.down")}
    </Alert>
  );
}
