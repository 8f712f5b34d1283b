import { IconButton, ListItemText, Menu, MenuItem, useColorScheme } from "@mui/material";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import { Bell } from "../features/bell/Bell";
import { useBell } from "../features/bell/useBell";
import { FindBox } from "../features/find/FindBox";
import { languagesOf, left } from "../scope/scopeTables";
import { readScope, writeScope, type Scope } from "../scope/scope";
import { useIntakes } from "../features/intake/useIntake";
import { useTables } from "../features/ledger/useLedger";
import { reviewsIn, useSession, type Person } from "../features/session/useSession";
import { t } from "../words/words";
import { UnsavedTexts } from "../features/unsaved/UnsavedTexts";
import { KeysDialog } from "../features/ledger/KeysDialog";
import { Logo } from "./Logo";
import { useFrameKeys } from "./useFrameKeys";
import "./frame.css";

interface Props {
  me: Person;
  /** The scope line, or the sentence that stands in its place. */
  title: ReactNode;
  /** What stands at the right of it. */
  aside?: ReactNode;
  /** What the screen looks at; kept when one goes to another. */
  scope?: Scope;
  children: ReactNode;
}

/** The desk: scope line above, thumb tabs at the left, the open book. */
export function Frame({ me, title, aside, scope, children }: Props) {
  const { pathname } = useLocation();
  const { keys, closeKeys } = useFrameKeys();
  const sentence = useRef<HTMLDivElement>(null);
  const book = useRef<HTMLElement>(null);
  // The window's name says where one is, in the words of the screen.
  useEffect(() => {
    const words = sentence.current?.textContent.trim() ?? "";
    document.title = words ? t("page.title", { screen: words }) : t("product");
  });
  // Who goes to another screen by keyboard is in it, and not before the page; a screen with a place of its own takes the focus there.
  useEffect(() => {
    if (document.activeElement === document.body) book.current?.focus({ preventScroll: true });
  }, [pathname]);
  return (
    <div className="desk">
      <header className="top">
        <NavLink to="/board" className="home" aria-label={t("product")}>
          <Logo />
        </NavLink>
        <div className="sentence" ref={sentence}>
          {title}
        </div>
        <div className="aside">
          <UnsavedTexts />
          {aside}
          <FindBox scope={scope} />
          <Bell />
          <PersonMenu me={me} />
        </div>
      </header>
      <Tabs scope={scope} me={me} />
      <main className="book" ref={book} tabIndex={-1}>
        {children}
      </main>
      <KeysDialog open={keys} onClose={closeKeys} />
    </div>
  );
}

function Tabs({ scope, me }: { scope: Scope | undefined; me: Person }) {
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
      <NavLink to="/wordbook">{t("tabs.wordbook")}</NavLink>
      <NavLink to="/products">{t("tabs.products")}</NavLink>
      <NavLink to="/people">{t("tabs.people")}</NavLink>
    </nav>
  );
}

function PersonMenu({ me }: { me: Person }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { mode, setMode } = useColorScheme();
  const { signOut } = useSession();
  const initials = me.name
    .split(" ")
    .map((part) => part.charAt(0))
    .join("")
    .slice(0, 2);
  return (
    <>
      <IconButton
        className="initials"
        aria-label={t("person.menu", { name: me.name })}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {initials}
      </IconButton>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem disabled>
          <ListItemText primary={me.name} secondary={rightsSaid(me)} />
        </MenuItem>
        {(["light", "dark", "system"] as const).map((one) => (
          <MenuItem key={one} selected={mode === one} onClick={() => setMode(one)}>
            {t(`theme.${one}`)}
          </MenuItem>
        ))}
        <MenuItem onClick={() => void signOut()}>{t("person.signOut")}</MenuItem>
      </Menu>
    </>
  );
}

function rightsSaid(me: Person): string {
  if (me.coordinator) return t("person.coordinator");
  return Object.entries(me.levels)
    .map(([language, level]) => `${level} (${language})`)
    .join(", ");
}
