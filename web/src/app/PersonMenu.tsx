import { IconButton, ListItemText, MenuItem, useColorScheme } from "@mui/material";
import { useState } from "react";
import { useSession, type Person } from "../session/useSession";
import { listed, nameOfTag, t } from "../words/words";
import { ActionMenu } from "../parts/ActionMenu";

/** Who is signed in, the theme, and the way out. */
export function PersonMenu({ me }: { me: Person }) {
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
      <ActionMenu label={t("person.menu", { name: me.name })} anchor={anchor} onClose={() => setAnchor(null)}>
        <MenuItem disabled>
          <ListItemText primary={me.name} secondary={rightsSaid(me)} />
        </MenuItem>
        {(["light", "dark", "system"] as const).map((one) => (
          <MenuItem key={one} selected={mode === one} onClick={() => setMode(one)}>
            {t(`theme.${one}`)}
          </MenuItem>
        ))}
        <MenuItem onClick={() => void signOut()}>{t("person.signOut")}</MenuItem>
      </ActionMenu>
    </>
  );
}

function rightsSaid(me: Person): string {
  if (me.coordinator) return t("person.coordinator");
  return listed(
    Object.entries(me.levels).map(([language, level]) =>
      t("person.level", { level: t(`level.${level as "reader"}`), language: nameOfTag(language) }),
    ),
  );
}
