import { Alert, Button, Snackbar } from "@mui/material";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { count, t, when } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { languagesOf } from "../../scope/scopeTables";
import { inOneLine } from "../../text/shapes";
import { TextShown } from "../../text/TextShown";
import { saidOf, undoing } from "../../sheet/undoing";
import { useTables } from "../../scope/useTables";
import type { Person } from "../../session/useSession";
import { useFontFor } from "../../theme/useFontFor";
import { BeginHere } from "./BeginHere";
import { OfferList } from "./OfferList";
import { ANSWERS, useDrafts, useOfferChanges, useOffers, type Answer } from "./useOffers";
import "../../parts/pages.css";
import "./offers.css";

type Shown = Answer | "drafts" | "all" | "begin";

/** One's own offers: what came back and why, what waits, what was settled; drafts; and where to begin. */
export function OffersPage({ me }: { me: Person }) {
  const [query, setQuery] = useSearchParams();
  const tables = useTables();
  const languages = languagesOf(tables.data ?? []);
  const counted = useOffers(me.id, "", "");
  const drafts = useDrafts();
  const counts = counted.data?.pages[0]?.counts ?? {};
  const total = Object.values(counts).reduce((sum, n) => sum + n, 0);
  const usual: Shown = total === 0 ? "begin" : "all";
  const shown: Shown = SHOWN.find((one) => one === query.get("show")) ?? usual;
  const answer = (ANSWERS as readonly string[]).includes(shown) ? (shown as Answer) : "";
  const offers = useOffers(me.id, "", answer);
  const { again } = useOfferChanges();
  const [said, setSaid] = useState<string | null>(null);
  const undo = async (redo: boolean) => {
    try {
      const undone = await (redo ? undoing.redo() : undoing.undo());
      await again();
      setSaid(undone ? saidOf(undone) || t("offers.undone") : t(redo ? "undo.nothingAgain" : "undo.nothing"));
    } catch (failure) {
      setSaid(sentenceOf(failure));
    }
  };
  const amounts: Record<string, number | undefined> = { ...counts, drafts: drafts.data?.length, all: total };
  return (
    <Frame title={t("offers.title")}>
      <div
        className="offerspage"
        onKeyDown={(event) => {
          const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea");
          const key = event.key.toLowerCase();
          if (typing || !(event.ctrlKey || event.metaKey) || (key !== "z" && key !== "y")) return;
          event.preventDefault();
          void undo(key === "y" || event.shiftKey);
        }}
      >
        <nav aria-label={t("offers.which")}>
          {SHOWN.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={shown === one}
              onClick={() => setQuery(one === usual ? {} : { show: one })}
            >
              {t(`offers.show.${one}`)} {amounts[one] !== undefined && <small>{count(amounts[one])}</small>}
            </button>
          ))}
          <Button size="small" onClick={() => void undo(false)}>
            {t("offers.undo")}
          </Button>
        </nav>
        <div className="list" tabIndex={0} role="region" aria-label={t(`offers.show.${shown}`)}>
          {shown === "begin" ? (
            <BeginHere me={me} tables={tables.data ?? []} />
          ) : shown === "drafts" ? (
            <Drafts drafts={drafts.data ?? []} languages={languages} onSay={setSaid} />
          ) : (
            <OfferList offers={offers} languages={languages} mine />
          )}
        </div>
      </div>
      <Snackbar open={said !== null} autoHideDuration={6000} onClose={() => setSaid(null)}>
        <Alert severity="info" onClose={() => setSaid(null)}>
          {said}
        </Alert>
      </Snackbar>
    </Frame>
  );
}

const SHOWN: Shown[] = ["all", ...ANSWERS, "drafts", "begin"];

interface DraftsProps {
  drafts: Schemas["Draft"][];
  languages: Schemas["LanguageReply"][];
  onSay: (sentence: string) => void;
}

/** Texts one pencilled; each can be put forward as it is. */
function Drafts({ drafts, languages, onSay }: DraftsProps) {
  const changes = useOfferChanges();
  const scripts = drafts.map(
    (draft) => languages.find((kept) => kept.language.tag === draft.language)?.language.script,
  );
  useFontFor(...scripts);
  if (drafts.length === 0) return <p className="soft">{t("offers.noDrafts")}</p>;
  return (
    <ul className="offerlines">
      {drafts.map((draft) => {
        const language = languages.find((kept) => kept.language.tag === draft.language)?.language;
        const text = draft.forms ? { forms: draft.forms } : { text: draft.text };
        return (
          <li key={`${draft.entry} ${draft.language}`} className="offerline">
            <div>
              <p className="remark">
                <Link
                  className="key"
                  to={`${ledgerAt({ tables: [draft.table], languages: [draft.language] })}&entry=${draft.entry}`}
                >
                  {draft.key}
                </Link>
                <span>
                  {draft.tableName} · {language?.englishName ?? draft.language}
                </span>
              </p>
              <p>
                <TextShown text={inOneLine(draft.source, draft.sourceForms)} />
              </p>
              <p lang={draft.language} dir={language?.rightToLeft ? "rtl" : "ltr"}>
                <TextShown text={inOneLine(draft.text, draft.forms)} />
              </p>
            </div>
            <div>
              <p className="soft">{t("offers.pencilled", { when: when(draft.at) })}</p>
              <p className="answers">
                <Button
                  size="small"
                  variant="contained"
                  onClick={() =>
                    void changes
                      .change(draft, { action: "PUT_FORWARD", ...text })
                      .catch((failure: unknown) => onSay(sentenceOf(failure)))
                  }
                >
                  {t("offers.putForward")}
                </Button>
              </p>
            </div>
          </li>
        );
      })}
    </ul>
  );
}
