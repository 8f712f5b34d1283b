import { sameForms, type Forms } from "./shapes";

/** A text while it is being typed. It outlives its field, which is drawn anew when its row leaves the sight and comes back. */
export class Draft {
  #forms: Forms;
  #taken: Forms | null = null;
  readonly #onChange: (all: Forms) => void;
  readonly #listeners = new Set<() => void>();

  /** @param onChange - told of every change, with all forms that have a text */
  constructor(forms: Forms, onChange: (all: Forms) => void = () => undefined) {
    this.#forms = { ...forms };
    this.#onChange = onChange;
  }

  read(form: string): string {
    return this.#forms[form] ?? "";
  }

  write(form: string, text: string): void {
    this.#forms = { ...this.#forms, [form]: text };
    this.#changed();
  }

  /** Takes over a text from elsewhere. */
  take(forms: Forms): void {
    this.#forms = { ...forms };
    this.#taken = forms;
    this.#changed();
  }

  /** Whether the text is one that was taken over and nobody changed a letter since. */
  get untouched(): boolean {
    return this.#taken !== null && sameForms(this.#taken, this.#forms);
  }

  /** The forms as they are; the same object until something changes. */
  get forms(): Forms {
    return this.#forms;
  }

  /** All forms that have a text. */
  all(): Forms {
    return Object.fromEntries(Object.entries(this.#forms).filter(([, text]) => text !== ""));
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  #changed(): void {
    this.#onChange(this.all());
    for (const listener of this.#listeners) listener();
  }
}
