import { IconButton, ListItemText, Menu, MenuItem, TextField, useColorScheme } from "@mui/material";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { NavLink } from "react-router";
import { useSession, type Person } from "../features/session/useSession";
import { t } from "../words/words";
import { Logo } from "./Logo";
import "./frame.css";

interface Props {
  me: Person;
  /** The scope line, or the sentence that stands in its place. */
  title: ReactNode;
  /** What stands at the right of it. */
  aside?: ReactNode;
  /** The words looked for, where the screen can look. */
  find?: string;
  onFind?: (words: string) => void;
  children: ReactNode;
}

/** The desk: scope line above, thumb tabs at the left, the open book. */
export function Frame({ me, title, aside, find, onFind, children }: Props) {
  return (
    <div className="desk">
      <header className="top">
        <NavLink to="/ledger" className="home" aria-label={t("product")}>
          <Logo />
        </NavLink>
        <div className="sentence">{title}</div>
        <div className="aside">
          {aside}
          {onFind && <Find key={find} words={find ?? ""} onFind={onFind} />}
          <PersonMenu me={me} />
        </div>
      </header>
      <nav className="tabs" aria-label={t("tabs.label")}>
        <NavLink to="/ledger">{t("tabs.ledger")}</NavLink>
        <NavLink to="/intake">{t("tabs.intake")}</NavLink>
      </nav>
      <main className="book">{children}</main>
    </div>
  );
}

function Find({ words, onFind }: { words: string; onFind: (words: string) => void }) {
  const [text, setText] = useState(words);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const focus = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest("input, textarea, [role=grid], [role=dialog]");
      if (event.key === "/" && !typing) {
        event.preventDefault();
        field.current?.focus();
      }
    };
    document.addEventListener("keydown", focus);
    return () => document.removeEventListener("keydown", focus);
  }, []);
  return (
    <form
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        onFind(text.trim());
      }}
    >
      <TextField
        id="find"
        size="small"
        inputRef={field}
        placeholder={t("find.placeholder")}
        value={text}
        onChange={(event) => setText(event.target.value)}
        slotProps={{
          htmlInput: { "aria-label": t("find.placeholder") },
          input: { endAdornment: <kbd className="hint">/</kbd> },
        }}
      />
    </form>
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
