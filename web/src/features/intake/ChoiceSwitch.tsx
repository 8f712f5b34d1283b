import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { t, type WordKey } from "../../words/words";
import type { Choice } from "./useIntake";

interface Props {
  label: string;
  choices: Choice[];
  value: Choice | null;
  busy: boolean;
  onChoose: (choice: Choice) => void;
}

/** What can be done about a change, or about many; nothing is pressed where many are decided differently. */
export function ChoiceSwitch({ label, choices, value, busy, onChoose }: Props) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      className="choiceswitch"
      aria-label={label}
      value={value}
      disabled={busy}
      onChange={(_, choice: Choice | null) => choice && onChoose(choice)}
    >
      {choices.map((choice) => (
        <ToggleButton key={choice} value={choice} className={choice.toLowerCase()}>
          {t(`choice.${choice}` as WordKey)}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
