import { everyTab, isString, readKept } from "../sheet/outbox/browserStore";
import english from "../words/en.json";
import { speak } from "../words/spoken";

const LANGUAGE = "mellow.language";
/** The pretend language is English to the browser: its dates and names of languages. */
const PRETEND_TAG = "en-x-pretend";

/** Has the interface speak the language that this browser asks for: English, or the pretend one that shows what could not be translated. */
export async function chooseLanguage(): Promise<void> {
  if (readKept(everyTab, LANGUAGE, isString) !== "pretend") return;
  const { pretend } = await import("../words/pretend");
  speak(PRETEND_TAG, pretend(english));
}
