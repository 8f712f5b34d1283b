import { IconButton, List, ListItem, ListItemButton, ListItemText, Popover } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, sentenceOf } from "../../api/client";
import { count, nameOfTag, t, when } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { BELL, useBell, type Notice } from "./useBell";
import "./bell.css";

/** What waits for one and what became of what one did: a count of what is new, and one quiet list. */
export function Bell() {
  const queries = useQueryClient();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const tables = useTables();
  const bell = useBell();
  const seen = useMutation({
    mutationFn: (until: string) => ask("/api/bell/seen", { method: "PUT", json: { until } }),
    onSuccess: () => queries.invalidateQueries({ queryKey: BELL }),
  });
  const notices = bell.data ?? [];
  const fresh = notices.filter((notice) => notice.fresh).length;
  const close = () => {
    setAnchor(null);
    const newest = notices[0];
    if (fresh === 0 || !newest) return;
    seen.mutate(newest.at);
  };
  const known = languagesOf(tables.data ?? []);
  const nameOf = (tag?: string) => (tag === undefined ? "" : nameOfTag(tag, known));
  return (
    <>
      <IconButton
        className={fresh > 0 ? "bell ringing" : "bell"}
        aria-label={t("bell.label", { n: fresh })}
        aria-haspopup="dialog"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        <svg viewBox="0 0 24 24" width="20" height="20" aria-hidden="true">
          <path d="M5 17h14l-1.6-2.6V10a5.4 5.4 0 0 0-10.8 0v4.4zM10 19.2a2 2 0 0 0 4 0M12 2.6v2" />
        </svg>
        {fresh > 0 && <span className="n">{count(fresh)}</span>}
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { role: "dialog", "aria-label": t("bell.title"), className: "bell-list" } }}
      >
        {(bell.error ?? seen.error) && <p className="wrong">{sentenceOf(bell.error ?? seen.error)}</p>}
        {bell.data && notices.length === 0 && <p className="soft">{t("bell.nothing")}</p>}
        <List dense>
          {notices.map((notice, at) => (
            <ListItem key={`${notice.kind} ${notice.language} ${notice.entry} ${notice.table}`} disablePadding>
              <ListItemButton
                component={Link}
                to={leadsTo(notice)}
                autoFocus={at === 0}
                className={notice.fresh ? "fresh" : undefined}
                onClick={close}
              >
                <ListItemText
                  primary={t(`bell.${notice.kind}`, {
                    n: notice.n,
                    language: nameOf(notice.language),
                    key: notice.key ?? "",
                    product: notice.key ?? "",
                    said: notice.said ?? "",
                  })}
                  secondary={when(notice.at)}
                />
              </ListItemButton>
            </ListItem>
          ))}
        </List>
      </Popover>
    </>
  );
}

function leadsTo({ kind, language, table, entry }: Notice): string {
  switch (kind) {
    case "WAITING":
      return `/review?in=${language}`;
    case "CAME_BACK":
      return "/offers?show=returned";
    case "SETTLED":
      return "/offers?show=settled";
    case "ANSWERED":
      return `${ledgerAt({ tables: table ? [table] : [] })}&entry=${entry}`;
    case "ASKED":
      return ledgerAt({ asked: true });
    case "NOT_DELIVERED":
      return `/deliveries/${table}`;
  }
}
