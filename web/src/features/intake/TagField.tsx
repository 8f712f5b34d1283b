import { TextField } from "@mui/material";
import { useTyped } from "./useTyped";

/** A language tag that is sent when it is done. */
export function TagField({
  tag,
  label,
  busy,
  disabled = busy,
  outlined = false,
  onTag,
}: {
  tag: string;
  label: string;
  busy: boolean;
  disabled?: boolean;
  outlined?: boolean;
  onTag: (tag: string) => void;
}) {
  const field = useTyped(tag, busy, (text) => text !== "" && onTag(text));
  return (
    <TextField
      variant={outlined ? "outlined" : "standard"}
      size="small"
      className="tag"
      label={outlined ? label : undefined}
      disabled={disabled}
      slotProps={{ htmlInput: { "aria-label": label } }}
      {...field}
    />
  );
}
