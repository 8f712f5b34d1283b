import { Divider, ListItemText, MenuItem, MenuList, Popover } from "@mui/material";
import { useState, type ReactNode } from "react";
import "./picker.css";

interface PickerProps {
  /** What is picked, such as "Languages". */
  label: string;
  /** What is picked now. */
  words: string;
  children: (close: () => void) => ReactNode;
}

/** A dotted-underlined word of the sentence that opens a list to pick from. */
export function Picker({ label, words, children }: PickerProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  return (
    <>
      <button
        type="button"
        className="picker"
        aria-haspopup="dialog"
        aria-label={`${label}: ${words}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {words}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { "aria-label": label, role: "dialog", sx: { maxHeight: 420, minWidth: 240 } } }}
      >
        {children(close)}
      </Popover>
    </>
  );
}

/** The choices of a picker: arrows go through them, a letter goes to the next that begins with it. */
export function Choices({ label, children }: { label: string; children: ReactNode }) {
  return (
    <MenuList dense aria-label={label}>
      {children}
    </MenuList>
  );
}

interface ChoiceProps {
  words: string;
  /** What else is to be known of it. */
  more?: string;
  chosen: boolean;
  /** A sign before the words. */
  sign?: ReactNode;
  /** What a click and Enter do. */
  onChoose: () => void;
  /** Adds it to what is chosen, or takes it out again: a click on its box, and the space bar. Of several that can be chosen at once, each has it. */
  onAlso?: () => void;
  /** Whether the list begins at it. */
  first?: boolean;
}

/** One choice of a picker. */
export function Choice({ words, more, chosen, sign, onChoose, onAlso, first = false }: ChoiceProps) {
  return (
    <MenuItem
      role={onAlso ? "menuitemcheckbox" : "menuitemradio"}
      aria-checked={chosen}
      selected={chosen && !onAlso}
      autoFocus={first}
      onClick={onChoose}
      onKeyDown={(event) => {
        if (event.key !== " " || !onAlso) return;
        event.preventDefault();
        event.stopPropagation();
        onAlso();
      }}
    >
      {onAlso && (
        <ChoiceBox
          chosen={chosen}
          onClick={(event) => {
            event.stopPropagation();
            onAlso();
          }}
        />
      )}
      {sign && <span className="choicesign">{sign}</span>}
      <ListItemText primary={words} secondary={more} />
    </MenuItem>
  );
}

/** A box that shows whether something is chosen; its item says so to those who hear it. */
export function ChoiceBox({ chosen, onClick }: { chosen: boolean; onClick?: (event: React.MouseEvent) => void }) {
  return <span className={chosen ? "choicebox chosen" : "choicebox"} aria-hidden="true" onClick={onClick} />;
}

/** What the choices below it have in common. */
export function ChoicesHead({ words }: { words: string }) {
  return (
    <>
      <Divider component="li" role="separator" aria-label={words} />
      <li className="choiceshead" role="presentation" aria-hidden="true">
        {words}
      </li>
    </>
  );
}
