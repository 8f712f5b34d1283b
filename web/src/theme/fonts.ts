// Each of these has its letters in parts, of which the browser fetches those that it shows.
import "@fontsource/literata/400.css";
import "@fontsource/literata/600.css";
import "@fontsource/source-sans-3/400.css";
import "@fontsource/source-sans-3/600.css";
import "@fontsource/source-sans-3/400-italic.css";
import "@fontsource/ibm-plex-mono/400.css";

/** Faces for scripts that the Latin faces lack; the files of a face load glyph range by glyph range as the browser needs them. */
const loaders: Record<string, () => Promise<unknown>> = {
  Arab: () => import("@fontsource/noto-sans-arabic/400.css"),
  Jpan: () => import("@fontsource/noto-sans-jp/400.css"),
};

const asked = new Set<string>();

/** Loads the face of a script the first time a language written in it is shown. */
export function loadFontFor(script: string): void {
  const load = loaders[script];
  if (load && !asked.has(script)) {
    asked.add(script);
    load().catch(() => asked.delete(script));
  }
}

const SCRIPTS: [string, RegExp][] = [
  ["Arab", /\p{Script=Arabic}/u],
  ["Jpan", /[\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Han}]/u],
];

/** Loads the faces that a text needs, where its language is not known, as in a file that is just being read. */
export function loadFontsOf(text: string): void {
  for (const [script, letters] of SCRIPTS) {
    if (letters.test(text)) loadFontFor(script);
  }
}
