import { Button, Divider, MenuItem } from "@mui/material";
import { useState } from "react";
import { ChoiceBox } from "../../parts/Picker";
import { t } from "../../words/words";
import type { View } from "./useView";
import { ActionMenu } from "../../parts/ActionMenu";

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
      <ActionMenu label={t("view.open")} anchor={anchor} onClose={() => setAnchor(null)}>
        {(["compact", "signs"] as const).map((what) => (
          <MenuItem
            key={what}
            role="menuitemcheckbox"
            aria-checked={view[what]}
            onClick={() => choose({ [what]: !view[what] })}
          >
            <ChoiceBox chosen={view[what]} />
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
      </ActionMenu>
    </>
  );
}
