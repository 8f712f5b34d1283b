import { useLayoutEffect, useRef, useState } from "react";
import { t } from "../../words/words";
import { editorCommandFor } from "./keyboard";
import { MAIN, type FormField, type Forms } from "./shapes";

export type EditEnd = "put-forward" | "leave" | "next" | "previous" | "blur";

/** A text while it is being typed. It outlives its field, which is drawn anew when its row leaves the sight and comes back. */
export class Draft {
  #forms: Forms;

  constructor(forms: Forms) {
    this.#forms = { ...forms };
  }

  read(form: string): string {
    return this.#forms[form] ?? "";
  }

  write(form: string, text: string): void {
    this.#forms = { ...this.#forms, [form]: text };
  }

  /** All forms that have a text. */
  all(): Forms {
    return Object.fromEntries(Object.entries(this.#forms).filter(([, text]) => text !== ""));
  }
}

interface Props {
  draft: Draft;
  /** One field per form; a plain text has one without a label. */
  fields: FormField[];
  label: string;
  language: string;
  rightToLeft: boolean;
  /** Longest allowed text in characters, 0 for no limit. */
  limit: number;
  onEnd: (forms: Forms, end: EditEnd) => void;
}

/** The text field that opens in a cell, or a small stack of them. It grows with its text; how it is left says what becomes of the text. */
export function CellEditor({ draft, fields, label, language, rightToLeft, limit, onEnd }: Props) {
  const stack = useRef<HTMLDivElement>(null);
  const ended = useRef(false);

  useLayoutEffect(() => {
    const first = stack.current?.querySelector("textarea");
    if (first) {
      first.focus();
      first.setSelectionRange(first.value.length, first.value.length);
    }
  }, []);

  const end = (how: EditEnd) => {
    if (!ended.current) {
      ended.current = true;
      onEnd(draft.all(), how);
    }
  };
  const step = (from: HTMLElement, by: 1 | -1): boolean => {
    const all = [...(stack.current?.querySelectorAll("textarea") ?? [])];
    const next = all[all.indexOf(from as HTMLTextAreaElement) + by];
    next?.focus();
    return next !== undefined;
  };

  return (
    <div
      ref={stack}
      className={fields.length > 1 ? "editor stack" : "editor"}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) end("blur");
      }}
      onKeyDown={(event) => {
        const command = editorCommandFor({ ...pick(event), isComposing: event.nativeEvent.isComposing });
        event.stopPropagation();
        if (!command) return;
        event.preventDefault();
        const field = event.target as HTMLElement;
        const within =
          command === "next" || (command === "put-forward" && !event.ctrlKey) ? 1 : command === "previous" ? -1 : null;
        if (within === null || !step(field, within)) end(command);
      }}
    >
      {fields.map((field) => (
        <Field
          key={field.form}
          field={field}
          draft={draft}
          label={field.label ? `${label}: ${field.label}` : label}
          language={language}
          rightToLeft={rightToLeft}
          limit={limit}
        />
      ))}
    </div>
  );
}

interface FieldProps extends Omit<Props, "fields" | "onEnd"> {
  field: FormField;
}

function Field({ field, draft, label, language, rightToLeft, limit }: FieldProps) {
  const [text, setText] = useState(() => draft.read(field.form));
  const area = useRef<HTMLTextAreaElement>(null);

  useLayoutEffect(() => {
    if (area.current) {
      area.current.style.height = "0";
      area.current.style.height = `${area.current.scrollHeight}px`;
    }
  }, [text]);

  const length = [...text].length;
  return (
    <div className="field">
      {field.form !== MAIN || field.label ? <span className="form">{field.label}</span> : null}
      <textarea
        ref={area}
        value={text}
        lang={language}
        dir={rightToLeft ? "rtl" : "ltr"}
        aria-label={label}
        rows={1}
        spellCheck
        onChange={(event) => {
          draft.write(field.form, event.target.value);
          setText(event.target.value);
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
