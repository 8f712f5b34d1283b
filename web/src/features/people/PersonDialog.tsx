import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { nameOfTag, t } from "../../words/words";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { LanguagePicker } from "../settings";

const LEVELS = ["reader", "contributor", "reviewer"] as const;

interface Props {
  person: Schemas["PersonRow"] | null;
  /** Called with the person's name, and the invitation of a new one. */
  onDone: (name: string, invitation?: Schemas["Invitation"]) => void;
  onClose: () => void;
}

/** A person's name and rights, per language. */
export function PersonDialog({ person, onDone, onClose }: Props) {
  const [signIn, setSignIn] = useState(person?.signIn ?? "");
  const [name, setName] = useState(person?.name ?? "");
  const [coordinator, setCoordinator] = useState(person?.coordinator ?? false);
  const [levels, setLevels] = useState<Record<string, string>>(person?.levels ?? {});
  const [wrong, setWrong] = useState<string | null>(null);
  const tables = useTables();
  const known = languagesOf(tables.data ?? []);
  const nameOf = (tag: string) => nameOfTag(tag, known);
  const save = () => {
    const json = { signIn, name, coordinator, levels };
    const work = person
      ? ask(`/api/people/${person.id}`, { method: "PUT", json }).then(() => onDone(name))
      : ask<Schemas["Invitation"]>("/api/people", { method: "POST", json }).then((made) => onDone(name, made));
    work.catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="person-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <DialogTitle id="person-title">{person ? person.name : t("people.add")}</DialogTitle>
        <DialogContent className="person-form">
          <TextField
            label={t("people.name")}
            size="small"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <TextField
            label={t("people.signIn")}
            size="small"
            disabled={person !== null}
            value={signIn}
            onChange={(event) => setSignIn(event.target.value.toLowerCase())}
            helperText={t("people.signInHint")}
          />
          <FormControlLabel
            control={<Checkbox size="small" checked={coordinator} onChange={(_, on) => setCoordinator(on)} />}
            label={t("people.isCoordinator")}
          />
          {!coordinator && (
            <>
              <div className="levels">
                {Object.entries(levels).map(([tag, level]) => (
                  <LevelRow
                    key={tag}
                    language={nameOf(tag)}
                    level={level}
                    onLevel={(next) => setLevels({ ...levels, [tag]: next })}
                    onDrop={() => setLevels(Object.fromEntries(Object.entries(levels).filter(([one]) => one !== tag)))}
                  />
                ))}
              </div>
              <LanguagePicker
                label={t("people.addLanguage")}
                onPick={(language) => setLevels({ ...levels, [language.tag]: "contributor" })}
              />
            </>
          )}
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === "" || signIn.trim() === ""}>
            {person ? t("save") : t("people.addDo")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

interface LevelProps {
  language: string;
  level: string;
  onLevel: (level: string) => void;
  onDrop: () => void;
}

function LevelRow({ language, level, onLevel, onDrop }: LevelProps) {
  return (
    <>
      <span>{language}</span>
      <TextField
        select
        size="small"
        value={level}
        slotProps={{ htmlInput: { "aria-label": t("people.levelIn", { language }) } }}
        onChange={(event) => onLevel(event.target.value)}
      >
        {LEVELS.map((one) => (
          <MenuItem key={one} value={one}>
            {t(`level.${one}`)}
          </MenuItem>
        ))}
      </TextField>
      <Button size="small" color="error" onClick={onDrop}>
        {t("settings.remove")}
      </Button>
    </>
  );
}
