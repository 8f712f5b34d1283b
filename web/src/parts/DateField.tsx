import { TextField } from "@mui/material";
import { useState } from "react";
import { day } from "../words/words";
import "./datefield.css";

interface Props {
  label: string;
  /** A day as ISO 8601 has it: "2026-10-12". */
  value: string;
  min?: string;
  max?: string;
  /** Told of every whole day that is chosen. */
  onDay: (value: string) => void;
}

/** A day, shown as in texts; while one is in the field, as the browser has days typed. */
export function DateField({ label, value, min, max, onDay }: Props) {
  const [here, setHere] = useState(false);
  return (
    <span className={here ? "datefield" : "datefield told"}>
      <TextField
        size="small"
        type="date"
        label={label}
        value={value}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { min, max } }}
        onFocus={() => setHere(true)}
        onBlur={() => setHere(false)}
        onChange={(event) => event.target.value && onDay(event.target.value)}
      />
      {!here && (
        <span className="said" aria-hidden="true">
          {day(value)}
        </span>
      )}
    </span>
  );
}
