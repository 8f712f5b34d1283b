import { Button, Checkbox, Divider, Menu, MenuItem } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import type { View } from "./useView";

interface Props {
  view: View;
  /** The names of the scope's sections. */
  sections: string[];
  onView: (part: Partial<View>) => void;
}

/** How one likes to see the sheet. */
export function ViewMenu({ view, sections, onView }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const choose = (part: Partial<View>) => {
    setAnchor(null);
    onView(part);
  };
  return (
    <>
      <Button size="small" variant="outlined" aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)}>
        {t("view.open")}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {(["compact", "signs"] as const).map((what) => (
          <MenuItem
            key={what}
            role="menuitemcheckbox"
            aria-checked={view[what]}
            onClick={() => choose({ [what]: !view[what] })}
          >
            <Checkbox
              edge="start"
              size="small"
              tabIndex={-1}
              checked={view[what]}
              slotProps={{ input: { "aria-hidden": true } }}
            />
            {t(`view.${what}`)}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem disabled={sections.length === 0} onClick={() => choose({ folded: sections })}>
          {t("view.foldAll")}
        </MenuItem>
        <MenuItem disabled={view.folded.length === 0} onClick={() => choose({ folded: [] })}>
          {t("view.unfoldAll")}
        </MenuItem>
        <MenuItem disabled={Object.keys(view.widths).length === 0} onClick={() => choose({ widths: {} })}>
          {t("view.widths")}
        </MenuItem>
      </Menu>
    </>
  );
}
