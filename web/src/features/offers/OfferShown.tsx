import { Button, TextField } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type Schemas } from "../../api/client";
import { t, when, percent } from "../../words/words";
import { ledgerAt } from "../../scope/scope";
import { fieldsOf, formsOf, inOneLine, MAIN } from "../../text/shapes";
import { DiffShown, TextShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import { useFontFor } from "../../theme/useFontFor";
import { NoteField, SayForm } from "./SayForm";
import { useOfferChanges, type OfferLine } from "./useOffers";

interface Props {
  line: OfferLine;
  language: Schemas["LanguageName"] | undefined;
  /** Whether it is one's own, to be improved, taken back or spoken for. */
  mine: boolean;
}

/** An offer, what became of it, and what its author can do next. */
export function OfferShown({ line, language, mine }: Props) {
  const [open, setOpen] = useState<"improve" | "say" | null>(null);
  const [wrong, setWrong] = useState("");
  const changes = useOfferChanges();
  useFontFor(language?.script);
  const lang = { lang: line.language, dir: language?.rightToLeft ? "rtl" : "ltr" };
  const offered = inOneLine(line.text, line.forms);
  const run = (work: Promise<unknown>) => {
    setWrong("");
    work.then(() => setOpen(null)).catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  return (
    <li className="offerline" aria-label={t("offers.line", { key: line.key, text: offered })}>
      <div>
        <p className="remark">
          <Link
            className="key"
            to={`${ledgerAt({ tables: [line.table], languages: [line.language] })}&entry=${line.entry}`}
          >
            {line.key}
          </Link>
          <span>
            {line.tableName} · {language?.englishName ?? line.language}
          </span>
        </p>
        <p>
          <TextShown text={inOneLine(line.source, line.sourceForms)} />
        </p>
        <p {...lang}>
          {line.amended === undefined ? (
            <TextShown text={offered} />
          ) : (
            <DiffShown runs={wordDiff(offered, inOneLine(line.amended, line.amendedForms))} />
          )}
        </p>
        {line.said && <p className="soft">{t(mine ? "offers.said" : "offers.saidWith", { what: line.said })}</p>}
      </div>
      <div>
        <p className={line.cameBack ? "wrong" : "soft"}>{outcomeOf(line)}</p>
        {line.reason && <p className="wrong">{line.reason}</p>}
        {line.byMachine && <p className="mind">{t("review.byMachine")}</p>}
        {!line.present && <p className="soft">{t("offers.gone")}</p>}
        {wrong && (
          <p className="wrong" role="alert">
            {wrong}
          </p>
        )}
        {mine && line.present && open === null && (
          <p className="answers">
            {line.cameBack && line.shape !== "asset" && (
              <Button size="small" variant="contained" onClick={() => setOpen("improve")}>
                {t("offers.improve")}
              </Button>
            )}
            {line.answer === "open" && (
              <>
                <Button size="small" onClick={() => setOpen("say")}>
                  {t(line.said ? "offers.sayOther" : "offers.say")}
                </Button>
                <Button
                  size="small"
                  onClick={() => run(changes.change(line, { action: "WITHDRAW", offer: line.offer }))}
                >
                  {t("footnotes.withdraw")}
                </Button>
              </>
            )}
          </p>
        )}
        {open === "say" && (
          <SayForm was={line.said} onSay={(note) => run(changes.say(line.offer, note))} onClose={() => setOpen(null)} />
        )}
        {open === "improve" && language && (
          <Improve
            line={line}
            language={language}
            onSend={(json) => run(changes.change(line, { action: "PUT_FORWARD", ...json }))}
            onClose={() => setOpen(null)}
          />
        )}
      </div>
    </li>
  );
}

const HUNDRED = 100;

function outcomeOf(line: OfferLine): string {
  const at = when(line.answeredAt ?? line.at);
  if (line.byRule) return t("offers.byRule", { when: at });
  const share = line.changedOf ? (HUNDRED * (line.changed ?? 0)) / line.changedOf : 0;
  return t(`offers.outcome.${line.answer as "open"}`, { who: line.answeredBy ?? "", when: at, share: percent(share) });
}

interface ImproveProps {
  line: OfferLine;
  language: Schemas["LanguageName"];
  onSend: (json: Record<string, unknown>) => void;
  onClose: () => void;
}

/** The text to work on, and a word to the reviewer: to put an improved text forward, or the same one with a good reason. */
function Improve({ line, language, onSend, onClose }: ImproveProps) {
  const [forms, setForms] = useState(() => formsOf(line.text, line.forms));
  const [note, setNote] = useState("");
  const fields = fieldsOf(line.shape, language, line.sourceForms);
  const send = () => {
    const said = note.trim() === "" ? {} : { reason: note.trim() };
    onSend(line.shape === "plain" ? { text: forms[MAIN], ...said } : { forms, ...said });
  };
  const same = Object.entries(forms).every(([form, text]) => formsOf(line.text, line.forms)[form] === text);
  return (
    <form
      className="improve"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      {fields.map((field, at) => (
        <TextField
          key={field.form}
          size="small"
          multiline
          fullWidth
          autoFocus={at === 0}
          label={field.label || t("offers.text")}
          value={forms[field.form] ?? ""}
          slotProps={{
            htmlInput: { lang: line.language, dir: language.rightToLeft ? "rtl" : "ltr" },
          }}
          onChange={(event) => setForms({ ...forms, [field.form]: event.target.value })}
          onKeyDown={(event) => {
            if (event.key === "Escape") onClose();
            if (event.key !== "Enter" || event.shiftKey || event.nativeEvent.isComposing) return;
            event.preventDefault();
            if (!same || note.trim() !== "") send();
          }}
        />
      ))}
      <NoteField note={note} onNote={setNote} onClose={onClose} />
      <p className="answers">
        <Button size="small" type="submit" variant="contained" disabled={same && note.trim() === ""}>
          {t("offers.putForward")}
        </Button>
        <Button size="small" onClick={onClose}>
          {t("cancel")}
        </Button>
        {same && <span className="soft">{t("offers.same")}</span>}
      </p>
    </form>
  );
}
