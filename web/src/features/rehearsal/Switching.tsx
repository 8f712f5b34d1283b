import { Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { sentenceOf, stepsSaid, type Schemas } from "../../api/client";
import { dropKept, everyTab, isString, readKept, writeKept } from "../../sheet/outbox/browserStore";
import { nameOfTag, t } from "../../words/words";
import { ASKED_BY, askedIn, choiceKey, type How } from "./playing";

export interface SwitchingProps {
  product: Schemas["ProductReply"];
  query: URLSearchParams;
  /** The language that is on the first stage. */
  now: string | undefined;
  answer: { data?: Schemas["AnswerReply"]; error: unknown };
  /** Asks the product for a language; an empty text for not at all. */
  onAsk: (how: How, asked: string) => void;
  /** Puts a language on the first stage, null for what the product starts with. */
  onLanguage: (tag: string | null) => void;
}

/** The ways in which people switch the language of a product of this kind, and the steps by which it finds the language. */
export function Switching(props: SwitchingProps) {
  const { product, query, answer, onAsk } = props;
  const asked = askedIn(query);
  const ways = ASKED_BY[product.kind] ?? [];
  return (
    <div className="switching" role="group" aria-label={t(`rehearsal.switch.${product.kind as "app"}`)}>
      {ways.map((how) => {
        const said = asked?.how === how ? asked.asked : "";
        return how === "number" ? (
          <Register
            key={how}
            value={said || String(numberOf(product, props.now) ?? "")}
            onNumber={(number) => onAsk(how, number)}
          />
        ) : (
          // What is typed is asked for once it is whole: with Enter, or when the field is left.
          <TextField
            key={how}
            size="small"
            label={t(`rehearsal.ask.${how}`)}
            defaultValue={said}
            slotProps={{ htmlInput: { maxLength: 300 } }}
            onBlur={(event) => {
              if (event.target.value !== said) onAsk(how, event.target.value);
            }}
            onKeyDown={(event) => {
              if (event.key === "Enter") onAsk(how, (event.target as HTMLInputElement).value);
            }}
          />
        );
      })}
      <LanguageMenu {...props} />
      {asked && (
        <p className={answer.error ? "wrong" : "soft"} role="status">
          {answer.error ? sentenceOf(answer.error) : answer.data ? stepsSaid(answer.data.steps) : t("ledger.loading")}
        </p>
      )}
    </div>
  );
}

/** A number that is stepped or typed has an answer at once; while it is typed the field may be empty. */
function Register({ value, onNumber }: { value: string; onNumber: (number: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      size="small"
      label={t("rehearsal.ask.number")}
      type="number"
      className="number"
      value={typed ?? value}
      slotProps={{ htmlInput: { min: 0 } }}
      onChange={(event) => {
        setTyped(event.target.value);
        if (event.target.value !== "") onNumber(event.target.value);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

function numberOf(product: Schemas["ProductReply"], tag: string | undefined): number | undefined {
  return product.languages.find(({ language }) => language.tag === tag)?.selector ?? undefined;
}

/** The product's own list of languages, as its users see it; the choice is remembered where the product does so. */
function LanguageMenu({ product, now, onLanguage }: SwitchingProps) {
  const key = choiceKey(product.slug);
  const [kept, setKept] = useState(() => readKept(everyTab, key, isString));
  const remember = (tag: string | null) => {
    setKept(tag);
    if (tag === null) dropKept(everyTab, key);
    else writeKept(everyTab, key, tag);
  };
  const offered = product.languages.filter(({ hidden }) => !hidden);
  return (
    <>
      <TextField
        select
        size="small"
        label={t("rehearsal.menu")}
        value={offered.some(({ language }) => language.tag === now) ? now : ""}
        onChange={(event) => {
          onLanguage(event.target.value);
          if (kept) remember(event.target.value);
        }}
      >
        {offered.map(({ language, shownAs }) => (
          <MenuItem key={language.tag} value={language.tag} lang={language.tag} dir="auto">
            {shownAs || language.ownName}
          </MenuItem>
        ))}
      </TextField>
      <Button
        size="small"
        aria-pressed={Boolean(kept)}
        title={t("rehearsal.rememberWords")}
        onClick={() => remember(kept ? null : (now ?? null))}
      >
        {kept ? t("rehearsal.remembers", { language: nameOfTag(kept) }) : t("rehearsal.remember")}
      </Button>
      <Button size="small" onClick={() => onLanguage(kept)} title={t("rehearsal.startWords")}>
        {t("rehearsal.start")}
      </Button>
    </>
  );
}
