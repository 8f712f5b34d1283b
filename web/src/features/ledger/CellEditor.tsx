import { useLayoutEffect, useRef, useState } from "react";
import { t } from "../../words/words";
import { editorCommandFor } from "./keyboard";

export type EditEnd = "put-forward" | "leave" | "next" | "previous" | "blur";

/** A text while it is being typed. It outlives its field, which is drawn anew when its row leaves the sight and comes back. */
export class Draft {
  #text: string;

  constructor(text: string) {
    this.#text = text;
  }

  read(): string {
    return this.#text;
  }

  write(text: string): void {
    this.#text = text;
  }
}

interface Props {
  draft: Draft;
  /** Whether the text is selected whole, so that typing replaces it. */
  selected: boolean;
  label: string;
  language: string;
  rightToLeft: boolean;
  /** Longest allowed text in characters, 0 for no limit. */
  limit: number;
  onEnd: (text: string, end: EditEnd) => void;
}

/** The text field that opens in a cell. It grows with its text; how it is left says what becomes of the text. */
export function CellEditor({ draft, selected, label, language, rightToLeft, limit, onEnd }: Props) {
  const [text, setText] = useState(() => draft.read());
  const field = useRef<HTMLTextAreaElement>(null);
  const ended = useRef(false);

  useLayoutEffect(() => {
    const area = field.current;
    if (area) {
      area.focus();
      if (selected) area.select();
      else area.setSelectionRange(area.value.length, area.value.length);
    }
  }, [selected]);

  useLayoutEffect(() => {
    const area = field.current;
    if (area) {
      area.style.height = "0";
      area.style.height = `${area.scrollHeight}px`;
    }
  }, [text]);

  const end = (how: EditEnd) => {
    if (!ended.current) {
      ended.current = true;
      onEnd(draft.read(), how);
    }
  };
  const length = [...text].length;

  return (
    <div className="editor">
      <textarea
        ref={field}
        value={text}
        lang={language}
        dir={rightToLeft ? "rtl" : "ltr"}
        aria-label={label}
        rows={1}
        spellCheck
        onChange={(event) => {
          draft.write(event.target.value);
          setText(event.target.value);
        }}
        onBlur={() => end("blur")}
        onKeyDown={(event) => {
          const command = editorCommandFor({ ...pick(event), isComposing: event.nativeEvent.isComposing });
          event.stopPropagation();
          if (command) {
            event.preventDefault();
            end(command);
          }
        }}
      />
      {limit > 0 && (
        <span className={length > limit ? "count over" : "count"} aria-label={t("cell.length", { length, limit })}>
          {length} / {limit}
        </span>
      )}
    </div>
  );
}

function pick(event: React.KeyboardEvent) {
  const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
  return { key, ctrlKey, metaKey, altKey, shiftKey };
}
