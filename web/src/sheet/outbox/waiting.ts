const FIRST_MS = 1_000;
const LONGEST_MS = 15_000;

type Attempt = () => Promise<"done" | "again">;

/**
 * What could not be sent because the server did not answer: tried again by itself, first after a second, then less and less often, and at once
 * when the browser says that it is connected again. One at a time, so that a server that comes back is not overrun.
 */
class Waiting {
  readonly #attempts = new Map<string, Attempt>();
  #delay = FIRST_MS;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #busy = false;

  constructor() {
    window.addEventListener("online", () => this.now());
  }

  /** Number of things that wait. */
  get size(): number {
    return this.#attempts.size;
  }

  /** Tries `attempt` until it is done; a later one under the same name takes its place. */
  add(name: string, attempt: Attempt): void {
    this.#attempts.set(name, attempt);
    this.#schedule();
  }

  /** Forgets all of it. */
  clear(): void {
    this.#attempts.clear();
  }

  /** Tries at once, as when somebody has signed in again. */
  now(): void {
    this.#delay = FIRST_MS;
    clearTimeout(this.#timer);
    this.#timer = undefined;
    void this.#run();
  }

  #schedule(): void {
    if (this.#timer !== undefined || this.#busy || this.#attempts.size === 0) return;
    this.#timer = setTimeout(() => {
      this.#timer = undefined;
      void this.#run();
    }, this.#delay);
    this.#delay = Math.min(LONGEST_MS, this.#delay * 2);
  }

  async #run(): Promise<void> {
    if (this.#busy) return;
    this.#busy = true;
    for (const [name, attempt] of [...this.#attempts]) {
      if ((await attempt()) === "again") break;
      if (this.#attempts.get(name) === attempt) this.#attempts.delete(name);
      this.#delay = FIRST_MS;
    }
    this.#busy = false;
    this.#schedule();
  }
}

/** The one queue of this page. */
export const waiting = new Waiting();
