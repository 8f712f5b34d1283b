import { Autocomplete, Button, MenuItem, TextField } from "@mui/material";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { formsBy, LETTERS, PLAYS, PRETEND } from "./playing";
import type { Dialogue } from "./useDialogue";

/** Values for the placeholders of a scene, with the forms that they choose. They are sent when the field is left, with Enter, or as a number is stepped. */
export function Values({
  values,
  stages,
  onValues,
}: {
  values: Record<string, string>;
  stages: Schemas["Stage"][];
  onValues: (values: Record<string, string>) => void;
}) {
  const names = Object.keys(values);
  if (names.length === 0) return null;
  return (
    <div className="values" role="group" aria-label={t("rehearsal.values")}>
      {names.map((name) => {
        const number = /^\d{1,9}$/.test(values[name] ?? "");
        const forms = formsBy(stages, name);
        const send = (value: string) => {
          if (value !== values[name]) onValues({ ...values, [name]: value });
        };
        return (
          <TextField
            key={name}
            size="small"
            label={name}
            type={number ? "number" : "text"}
            defaultValue={values[name]}
            slotProps={{ htmlInput: { maxLength: 100, ...(number ? { min: 0 } : {}) } }}
            helperText={forms
              .map(({ language, forms: used }) => t("rehearsal.form", { language, form: used.join(", ") }))
              .join(" · ")}
            onChange={(event) => {
              if (number && event.target.value !== "") send(event.target.value);
            }}
            onBlur={(event) => send(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter") (event.target as HTMLElement).blur();
            }}
          />
        );
      })}
    </div>
  );
}

/** What stands at places that leave a choice: lamps are put into a state, a list goes from one entry to the next. */
export function PlaceChoices({
  choices,
  onChoose,
}: {
  choices: Schemas["PlaceChoice"][];
  onChoose: (place: number, value: string) => void;
}) {
  if (choices.length === 0) return null;
  return (
    <div className="choices" role="group" aria-label={t("rehearsal.choices")}>
      {choices.map(({ place, name, list, values, now }) => {
        const at = values.indexOf(now);
        const step = (by: number) => onChoose(place, values[(at + by + values.length) % values.length] ?? now);
        return (
          <span key={place}>
            <Autocomplete
              size="small"
              options={values}
              value={now}
              disableClearable
              onChange={(_, value) => onChoose(place, value)}
              renderInput={(input) => (
                <TextField
                  {...input}
                  label={list ? t("rehearsal.listOf", { name }) : t("rehearsal.stateOf", { name })}
                />
              )}
            />
            <Button size="small" aria-label={t("rehearsal.earlier", { name })} onClick={() => step(-1)}>
              ‹
            </Button>
            <Button size="small" aria-label={t("rehearsal.next", { name })} onClick={() => step(1)}>
              ›
            </Button>
            <span className="soft">{t("rehearsal.ofMany", { at: at + 1, of: values.length })}</span>
          </span>
        );
      })}
    </div>
  );
}

interface Query {
  query: URLSearchParams;
  onChange: (name: string, values: string[]) => void;
}

/** What the scene is played with: which texts, and of pretend languages what they are made like. */
export function Plays({
  query,
  onChange,
  languages,
  delivery,
}: Query & { languages: string[]; delivery?: number | null }) {
  const play = query.get("play") ?? "written";
  const pretends = languages.some((tag) => (PRETEND as readonly string[]).includes(tag));
  return (
    <div className="plays" role="group" aria-label={t("rehearsal.with")}>
      <span>{t("rehearsal.with")}</span>
      {PLAYS.map((one) => (
        <button
          key={one}
          type="button"
          className="picker"
          aria-pressed={play === one}
          onClick={() => onChange("play", one === "written" ? [] : [one])}
        >
          {one === "delivered" && delivery ? t("rehearsal.play.number", { n: delivery }) : t(`rehearsal.play.${one}`)}
        </button>
      ))}
      {pretends && (
        <>
          <TextField
            size="small"
            type="number"
            label={t("rehearsal.longer")}
            defaultValue={query.get("longer") ?? 35}
            slotProps={{ htmlInput: { min: 0, max: 300, step: 5 } }}
            onChange={(event) => {
              const percent = Number(event.target.value);
              if (event.target.value !== "" && percent >= 0 && percent <= 300) onChange("longer", [String(percent)]);
            }}
          />
          <TextField
            select
            size="small"
            label={t("rehearsal.letters")}
            value={query.get("letters") ?? "accented"}
            onChange={(event) => onChange("letters", [event.target.value])}
          >
            {LETTERS.map((one) => (
              <MenuItem key={one} value={one}>
                {t(`rehearsal.letters.${one}`)}
              </MenuItem>
            ))}
          </TextField>
        </>
      )}
    </div>
  );
}

const SIZES = [100, 115, 130, 150, 175, 200];
const WIDTHS = [1280, 1024, 768, 480, 360];

/** How large letters are, and what the product is seen in: a device upright or on its side, a window of some width. */
export function Sizes({ kind, query, onChange }: Query & { kind: string }) {
  if (kind !== "app" && kind !== "site") return null;
  const size = query.get("size") ?? "100";
  const within = query.get("within") ?? "";
  return (
    <div className="sizes">
      <TextField
        select
        size="small"
        label={t(kind === "app" ? "rehearsal.textSize" : "rehearsal.zoom")}
        value={size}
        onChange={(event) => onChange("size", event.target.value === "100" ? [] : [event.target.value])}
      >
        {[...new Set([...SIZES, Number(size)])]
          .sort((a, b) => a - b)
          .map((one) => (
            <MenuItem key={one} value={String(one)}>
              {t("rehearsal.percent", { n: one })}
            </MenuItem>
          ))}
      </TextField>
      <TextField
        select
        size="small"
        label={t(kind === "app" ? "rehearsal.held" : "rehearsal.window")}
        value={within}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        onChange={(event) => onChange("within", event.target.value ? [event.target.value] : [])}
      >
        <MenuItem value="">{t("rehearsal.asDrawn")}</MenuItem>
        {kind === "app"
          ? (["upright", "onitsside"] as const).map((one) => (
              <MenuItem key={one} value={one}>
                {t(`rehearsal.held.${one}`)}
              </MenuItem>
            ))
          : WIDTHS.map((one) => (
              <MenuItem key={one} value={String(one)}>
                {t("rehearsal.pixels", { n: one })}
              </MenuItem>
            ))}
      </TextField>
    </div>
  );
}

/** Runs a dialogue, turn by turn. */
export function DialogueBar({ dialogue }: { dialogue: Dialogue }) {
  const { turns, turn, running, stays, go, run } = dialogue;
  if (turn === null) return null;
  return (
    <div className="dialogue" role="group" aria-label={t("rehearsal.dialogue")}>
      <Button size="small" variant="outlined" onClick={() => run(!running)}>
        {t(running ? "rehearsal.pause" : "rehearsal.playIt")}
      </Button>
      <Button size="small" disabled={turn === 0} onClick={() => go(turn - 1)}>
        {t("rehearsal.before")}
      </Button>
      <Button size="small" disabled={turn === turns - 1} onClick={() => go(turn + 1)}>
        {t("rehearsal.after")}
      </Button>
      <span className="soft" role="status">
        {t("rehearsal.turn", { at: turn + 1, of: turns, seconds: stays })}
      </span>
    </div>
  );
}
