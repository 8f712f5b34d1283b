import { useLayoutEffect, useRef, useSyncExternalStore } from "react";
import { t } from "../words/words";
import type { Draft } from "../text/draft";
import { broken, missingFrom, snapped, type Range } from "../text/guarding";
import type { EditEnd } from "./ending";
import { editorCommandFor } from "./keyboard";
import { pieces } from "../text/pieces";
import { MAIN, type FormField, type Forms } from "../text/shapes";
import { runs, type Spot } from "../text/spots";
import { FoundRun, Signs } from "../text/TextShown";
import "./editor.css";

interface Props {
  draft: Draft;
  /** One field per form; a plain text has one without a label. */
  fields: FormField[];
  label: string;
  language: string;
  rightToLeft: boolean;
  /** Longest allowed text in characters, 0 for no limit. */
  limit: number;
  /** The source's placeholders in order, which Alt and a number put in. */
  placeholders?: string[];
  /** Whether spaces and line breaks are shown as signs. */
  signs?: boolean;
  /** Where something was found in a form that reads so. */
  spots?: (form: string, text: string) => Spot[];
  onEnd: (forms: Forms, end: EditEnd) => void;
  /** Alt and a letter: the footnote's text of that letter. */
  onTake?: (letter: string) => void;
}

/** The text field that opens in a cell, or a small stack of them. It grows with its text; how it is left says what becomes of the text. */
export function CellEditor(props: Props) {
  const { draft, fields, label, onEnd, onTake, placeholders = [] } = props;
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
        if (typeof command === "object") {
          const wanted = "insert" in command ? placeholders[command.insert - 1] : undefined;
          if (wanted !== undefined) insert(field, wanted);
          else if ("take" in command) onTake?.(command.take);
          return;
        }
        const within =
          command === "next" || (command === "put-forward" && !event.ctrlKey) ? 1 : command === "previous" ? -1 : null;
        if (within === null || !step(field, within)) end(command);
      }}
    >
      {fields.map((field) => (
        <Field key={field.form} {...props} field={field} label={field.label ? `${label}: ${field.label}` : label} />
      ))}
    </div>
  );
}

/** Puts a text in at the caret, so that the field's own undo knows of it. */
function insert(field: HTMLElement, text: string): void {
  field.focus();
  if (typeof document.execCommand !== "function" || !document.execCommand("insertText", false, text)) {
    const area = field as HTMLTextAreaElement;
    area.setRangeText(text, area.selectionStart, area.selectionEnd, "end");
    area.dispatchEvent(new Event("input", { bubbles: true }));
  }
}

interface FieldProps extends Omit<Props, "fields" | "onEnd"> {
  field: FormField;
}

function Field({
  field,
  draft,
  label,
  language,
  rightToLeft,
  limit,
  placeholders = [],
  signs = false,
  spots,
}: FieldProps) {
  const text = useSyncExternalStore(draft.subscribe, () => draft.read(field.form));
  const area = useRef<HTMLTextAreaElement>(null);
  const caret = useRef(0);

  useLayoutEffect(() => {
    if (area.current) {
      area.current.style.height = "0";
      area.current.style.height = `${area.current.scrollHeight}px`;
    }
  }, [text]);

  const select = (to: Range) => area.current?.setSelectionRange(to.start, to.end);
  const length = [...text].length;
  const main = field.form === MAIN || field.label === "";
  const missing = main ? missingFrom(text, placeholders) : [];
  return (
    <div className="field">
      {field.form !== MAIN || field.label ? <span className="form">{field.label}</span> : null}
      <div className="typed">
        <div className="under" aria-hidden="true" lang={language} dir={rightToLeft ? "rtl" : "ltr"}>
          <Under text={text} signs={signs} spots={spots?.(field.form, text) ?? []} />
        </div>
        <textarea
          ref={area}
          value={text}
          lang={language}
          dir={rightToLeft ? "rtl" : "ltr"}
          aria-label={label}
          rows={1}
          spellCheck
          onChange={(event) => draft.write(field.form, event.target.value)}
          onSelect={(event) => {
            const { selectionStart: start, selectionEnd: end } = event.currentTarget;
            const to = snapped(text, { start, end }, caret.current);
            caret.current = to.end;
            if (to.start !== start || to.end !== end) select(to);
          }}
          onKeyDown={(event) => {
            const { selectionStart: start, selectionEnd: end } = event.currentTarget;
            if (start !== end || (event.key !== "Backspace" && event.key !== "Delete")) return;
            // Selected first, so that the key deletes all of it and the field's own undo brings all of it back.
            const whole = broken(text, start, event.key);
            if (whole) select(whole);
          }}
        />
      </div>
      {limit > 0 && (
        <span className={length > limit ? "count over" : "count"} aria-label={t("cell.length", { length, limit })}>
          {length} / {limit}
        </span>
      )}
      {missing.length > 0 && (
        <div className="missing">
          {missing.map((one, at) => (
            <button
              key={at}
              type="button"
              className="chip"
              tabIndex={-1}
              aria-label={t("cell.insert", { placeholder: one })}
              title={t("cell.insertKey", { placeholder: one, number: String(placeholders.indexOf(one) + 1) })}
              onMouseDown={(event) => {
                event.preventDefault();
                if (area.current) insert(area.current, one);
              }}
            >
              {one}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

/** What lies under the letters: the ground of placeholders, lines under what was found, and signs for spaces and line breaks. */
function Under({ text, signs, spots }: { text: string; signs: boolean; spots: Spot[] }) {
  return (
    <>
      {runs(text, spots).map((run, n) => (
        <FoundRun key={n} run={run}>
          {pieces(run.text).map((piece, at) =>
            piece.kind === "placeholder" ? (
              <mark key={at}>{piece.text}</mark>
            ) : (
              <Signs key={at} text={piece.text} shown={signs} />
            ),
          )}
        </FoundRun>
      ))}
      {"\u200b"}
    </>
  );
}

function pick(event: React.KeyboardEvent) {
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
  return { key, code, ctrlKey, metaKey, altKey, shiftKey };
}
