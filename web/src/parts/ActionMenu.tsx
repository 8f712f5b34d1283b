import { Menu } from "@mui/material";
import type { ReactNode } from "react";

interface Props {
  /** What the menu is of: the words of the button that opens it. */
  label: string;
  /** The button that it opens at, null while it is closed. */
  anchor: HTMLElement | null;
  onClose: () => void;
  children: ReactNode;
}

/** A menu of what can be done; its items are its direct children. It is a dialog of its own, since it stands outside of the page's regions. */
export function ActionMenu({ label, anchor, onClose, children }: Props) {
  return (
    <Menu
      open={anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      slotProps={{ paper: { role: "dialog", "aria-label": label }, list: { "aria-label": label } }}
    >
      {children}
    </Menu>
  );
}
