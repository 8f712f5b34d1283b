import { Alert, Button, List, ListItem, ListItemButton, ListItemText, Popover } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { isRefusing, subscribeToRefusing } from "../../sheet/outbox/browserStore";
import { outbox, type Unsaved } from "../../sheet/outbox/outbox";
import { waiting } from "../../sheet/outbox/waiting";
import { loadFontsOf } from "../../theme/fonts";
import { t } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { inOneLine, mainForm } from "../../text/shapes";

/** Rows are asked for by so many. */
const MOST = 60;

/** How many texts the server does not have, on every screen, and the list of them; each leads to its cell. */
export function UnsavedTexts() {
  const all = useSyncExternalStore(outbox.subscribe, () => outbox.unsaved());
  const refusing = useSyncExternalStore(subscribeToRefusing, isRefusing);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (all.length === 0) {
    return refusing ? <span className="waiting">{t("unsaved.storeFull")}</span> : null;
  }
  const forTheServer = all.every(({ pending }) => pending.status === "waiting");
  return (
    <>
      <button
        type="button"
        className="waiting"
        aria-haspopup="dialog"
        onClick={(event) => {
          setAnchor(event.currentTarget);
          waiting.now();
        }}
      >
        {t(forTheServer ? "ledger.waiting" : "unsaved.some", { n: all.length })}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { role: "dialog", "aria-label": t("unsaved.title"), className: "bell-list" } }}
      >
        {refusing && <Alert severity="warning">{t("unsaved.storeFull")}</Alert>}
        {anchor && <Texts all={all} onClose={() => setAnchor(null)} />}
      </Popover>
    </>
  );
}

function Texts({ all, onClose }: { all: Unsaved[]; onClose: () => void }) {
  const shown = all.slice(0, MOST);
  const ids = [...new Set(shown.map(({ entry }) => entry))].sort((a, b) => a - b).join(",");
  const tags = [...new Set(shown.map(({ language }) => language))].sort().join(",");
  const rows = useQuery({
    queryKey: ["unsaved", ids, tags],
    queryFn: ({ signal }) =>
      ask<Schemas["RowReply"][]>(`/api/rows?${new URLSearchParams({ ids, in: tags })}`, { signal }),
  });
  const said = shown.map(({ pending }) => mainForm(pending.forms)).join("");
  useEffect(() => loadFontsOf(said), [said]);
  return (
    <>
      <List dense>
        {shown.map(({ entry, language, pending }) => {
          const row = rows.data?.find((one) => one.id === entry);
          const text = inOneLine(mainForm(pending.forms), pending.forms);
          const where = row ? `${row.key} · ${language}` : language;
          const why = pending.sentence ?? "";
          return (
            <ListItem key={`${entry} ${language}`} disablePadding>
              <ListItemButton
                component={Link}
                to={row ? `${ledgerAt({ tables: [row.table], languages: [language] })}&entry=${entry}` : "/ledger"}
                onClick={onClose}
              >
                <ListItemText
                  primary={<bdi lang={language}>{text || t("cell.empty")}</bdi>}
                  secondary={`${where} · ${why}`}
                />
              </ListItemButton>
            </ListItem>
          );
        })}
      </List>
      {all.length > MOST && <p className="soft">{t("unsaved.more", { n: all.length - MOST })}</p>}
      <Button onClick={() => waiting.now()}>{t("unsaved.tryNow")}</Button>
    </>
  );
}
