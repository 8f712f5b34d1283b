// The texts of a product, fetched while it runs. Copy this file; it needs nothing else.
//
//   const texts = new Bundles({ server: "https://ledger.example", product: "deckside" });
//   await texts.begin();              // the language that was chosen last, or the reader's, or the start language
//   texts.say("boarding.title");      // "Laivaannousu"
//   texts.say("tickets.count", { n: 3 });
//   await texts.choose("ar");         // another language, without loading the page again
//   texts.addEventListener("change", draw);

export class Bundles extends EventTarget {
  languages = []; // what may be chosen: tag, selector, name, direction, numbering
  language = ""; // the tag of what is shown
  missing = new Set(); // names that were said and that no language has
  offline = false; // whether this is what was kept, because the server did not answer
  #texts = {};
  #borrowed = {};
  #offered = new Set();
  #following = null;

  /** `token` is needed unless the product is open to everybody; with `preview` texts are shown that are only offered, as they change. */
  constructor({ server = "", product, token = "", preview = false }) {
    super();
    this.at = `${server}/api/bundles/${encodeURIComponent(product)}`;
    this.place = `texts of ${product}`; // in the browser's own store
    this.headers = token ? { Authorization: `Bearer ${token}` } : {};
    this.preview = preview;
  }

  /** `asked` is what somebody says: a number, a tag, a host. Without, the choice that was made here before counts, or else the browser's languages. */
  async begin(asked = localStorage.getItem(`${this.place}: chosen`) ?? "*") {
    const list = await this.#fetch("");
    this.languages = list.languages;
    this.start = list.start;
    await this.#show(asked);
  }

  /** Switches, and remembers it. */
  async choose(tag) {
    await this.#show(tag);
    localStorage.setItem(`${this.place}: chosen`, this.language);
  }

  /** A text with its places filled. With a number called n the form for that number is taken; the number is written in the language's digits. */
  say(name, places = {}) {
    let text = this.#texts[name];
    if (text === undefined) {
      this.missing.add(name);
      return name;
    }
    const rules = this.#borrowed[name] ?? this.language; // a borrowed text follows the rules of its own language
    if (typeof text === "object") text = text[new Intl.PluralRules(rules).select(places.n)] ?? text.other;
    return text.replace(/\{(\w+)\}/g, (place, key) =>
      typeof places[key] === "number" ? this.number(places[key]) : (places[key] ?? place),
    );
  }

  /** A number in the digits of the language. */
  number(n) {
    return new Intl.NumberFormat(this.language, { numberingSystem: this.shown?.numbering }).format(n);
  }

  /** Whether a text is only offered yet; so it is marked in a preview. */
  isOffered(name) {
    return this.#offered.has(name);
  }

  /** The language in the list; `direction` is rtl or ltr. */
  get shown() {
    return this.languages.find((one) => one.tag === this.language);
  }

  async #show(asked) {
    this.#following?.abort();
    if (this.preview) return this.#follow(asked);
    const kept = this.#kept(`/${asked}`);
    let bundle;
    try {
      // What is here already is not sent again: only what changed since that delivery.
      bundle = kept && (await this.#fetch(`/${asked}?since=${kept.delivery}`, `/${asked}`, kept));
    } catch (gone) {
      if (gone.status !== 404) throw gone; // that delivery was recalled: all is asked for anew
    }
    this.#take(bundle ?? (await this.#fetch(`/${asked}`)));
  }

  #take(bundle) {
    this.language = bundle.language;
    this.#texts = bundle.texts;
    this.#borrowed = bundle.borrowed;
    this.#offered = new Set(bundle.offered);
    this.missing.clear();
    this.dispatchEvent(new Event("change"));
  }

  /** Asks, and keeps the answer for the day when nobody answers. */
  async #fetch(path, key = path, kept = null) {
    let answer;
    try {
      answer = await fetch(this.at + path, { headers: this.headers });
    } catch (nobody) {
      const former = kept ?? this.#kept(key) ?? (key && this.#kept(`/${this.start}`));
      if (!former) throw nobody;
      this.offline = true;
      return former;
    }
    this.offline = false;
    if (!answer.ok) throw Object.assign(new Error((await answer.json()).detail), { status: answer.status });
    const said = await answer.json();
    const whole = kept && said.language === kept.language ? merged(kept, said) : kept ? null : said;
    if (!whole) return this.#fetch(key); // what was asked for means another language now
    localStorage.setItem(`${this.place}: ${key}`, JSON.stringify(whole));
    // Whoever asked with a number finds it by its tag as well when the server is away.
    if (whole.language) localStorage.setItem(`${this.place}: /${whole.language}`, JSON.stringify(whole));
    return whole;
  }

  #kept(key) {
    return JSON.parse(localStorage.getItem(`${this.place}: ${key}`));
  }

  /** Shows all texts as they stand now, and then whatever changes, until another language is chosen. When the line breaks it is taken up again. */
  #follow(asked) {
    const ending = (this.#following = new AbortController());
    return new Promise((begun, failed) => {
      const listen = async () => {
        let bundle = null;
        try {
          for await (const said of this.#events(`/${asked}/events?offered=true`, ending.signal)) {
            this.#take((bundle = bundle ? merged(bundle, said) : said));
            begun();
          }
        } catch (broken) {
          failed(broken);
        }
        if (!ending.signal.aborted) setTimeout(listen, 2000);
      };
      void listen();
    });
  }

  /** Server-sent events with a token, which EventSource cannot send. */
  async *#events(path, signal) {
    const answer = await fetch(this.at + path, { headers: this.headers, signal });
    if (!answer.ok) throw new Error((await answer.json()).detail);
    let unread = "";
    for await (const piece of pieces(answer.body.pipeThrough(new TextDecoderStream()).getReader())) {
      const events = (unread + piece).split("\n\n");
      unread = events.pop();
      for (const event of events) {
        const data = event.split("\n").find((line) => line.startsWith("data:"));
        if (data) yield JSON.parse(data.slice("data:".length)); // others say only that the line is up
      }
    }
  }
}

async function* pieces(reader) {
  for (let read = await reader.read(); !read.done; read = await reader.read()) yield read.value;
}

/** A bundle with what changed since: what is told of anew, what is gone, and what borrows no more. */
function merged(former, change) {
  const both = { ...change, texts: { ...former.texts }, borrowed: { ...former.borrowed } };
  const offered = new Set(former.offered);
  for (const name of [...Object.keys(change.texts), ...change.gone]) {
    delete both.texts[name];
    delete both.borrowed[name];
    offered.delete(name);
  }
  Object.assign(both.texts, change.texts);
  Object.assign(both.borrowed, change.borrowed);
  both.offered = [...offered, ...(change.offered ?? [])];
  return both;
}
