import { TextField } from "@mui/material";
import { useState } from "react";

/** A language tag that is sent when it is done. */
export function TagField({
  tag,
  label,
  busy,
  outlined = false,
  onTag,
}: {
  tag: string;
  label: string;
  busy: boolean;
  outlined?: boolean;
  onTag: (tag: string) => void;
}) {
  const [text, setText] = useState(tag);
  const send = () => text !== tag && text.trim() !== "" && onTag(text.trim());
  return (
    <TextField
      variant={outlined ? "outlined" : "standard"}
      size="small"
      className="tag"
      label={outlined ? label : undefined}
      value={text}
      disabled={busy}
      slotProps={{ htmlInput: { "aria-label": label } }}
      onChange={(event) => setText(event.target.value)}
      onBlur={send}
      onKeyDown={(event) => event.key === "Enter" && send()}
    />
  );
}
