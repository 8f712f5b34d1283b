import { createContext, use, useEffect, useRef, type ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import type { Scope } from "../scope/scope";
import { t } from "../words/words";
import { Announcer } from "../parts/Announcer";
import { Logo } from "../parts/Logo";
import { KeysDialog } from "../sheet/KeysDialog";
import { useFrameKeys } from "./useFrameKeys";
import "./frame.css";

/** What stands on the desk of every screen; the screens do not know what it is. */
export interface DeskParts {
  /** What stands at the right of the scope line. */
  tools: (scope: Scope | undefined) => ReactNode;
  tabs: (scope: Scope | undefined) => ReactNode;
}

const Desk = createContext<DeskParts>({ tools: () => null, tabs: () => null });

/** Gives all screens within it what stands on their desk. */
export const DeskProvider = Desk.Provider;

interface Props {
  /** The scope line, or the words that stand in its place. */
  title: ReactNode;
  /** What stands at the right of it. */
  aside?: ReactNode;
  /** What the screen looks at; kept when one goes to another. */
  scope?: Scope;
  children: ReactNode;
}

/** The desk: scope line above, thumb tabs at the left, the open book. */
export function Frame({ title, aside, scope, children }: Props) {
  const { pathname } = useLocation();
  const { tools, tabs } = use(Desk);
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
          {typeof title === "string" ? <h1 className="scopeline">{title}</h1> : title}
        </div>
        <div className="aside">
          {aside}
          {tools(scope)}
        </div>
      </header>
      {tabs(scope)}
      <main className="book" ref={book} tabIndex={-1}>
        {children}
      </main>
      <Announcer />
      {keys && <KeysDialog onClose={closeKeys} />}
    </div>
  );
}
