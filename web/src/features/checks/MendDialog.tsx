import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { ChangeList } from "../../text/ChangeList";
import { t } from "../../words/words";

interface Props {
  texts: Schemas["MendedText"][];
  languages: Schemas["LanguageReply"][];
  /** Called with the texts to mend; none when nothing is to be done. */
  onDone: (texts: Schemas["MendedText"][]) => void;
}

const idOf = (one: Schemas["MendedText"]) => `${one.entry} ${one.language}`;

/** Every text that would be mended, with what would change in it; only ticked ones are. */
export function MendDialog({ texts, languages, onDone }: Props) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = texts.filter((one) => !left.has(idOf(one)));
  return (
    <Dialog open onClose={() => onDone([])} maxWidth="md" fullWidth aria-labelledby="mend-title">
      <DialogTitle id="mend-title">{t("checks.mendTitle", { n: texts.length })}</DialogTitle>
      <DialogContent>
        <p className="soft">{t("checks.sureWords")}</p>
        <ChangeList
          label={t("checks.places")}
          changes={texts.map((one) => ({
            id: idOf(one),
            name: `${one.key} · ${one.language}`,
            settled: one.settled,
            before: one.before,
            after: one.after,
            lang: one.language,
            rightToLeft: languages.find(({ language }) => language.tag === one.language)?.language.rightToLeft ?? false,
          }))}
          left={left}
          onLeft={setLeft}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onDone([])}>{t("cancel")}</Button>
        <Button autoFocus variant="contained" disabled={chosen.length === 0} onClick={() => onDone(chosen)}>
          {t("checks.mend", { n: chosen.length })}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
