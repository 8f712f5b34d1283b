import { Alert, Checkbox, FormControlLabel, MenuItem, TextField } from "@mui/material";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { useFocusBack } from "../../parts/useFocusBack";
import { loadFontsOf } from "../../theme/fonts";
import { listed, t } from "../../words/words";
import type { Person } from "../../session/useSession";
import { formatLabel, formatNames, useFormats } from "./formats";
import { ColumnsTable } from "./ColumnsTable";
import { Sheets } from "./Sheets";
import { TagField } from "./TagField";
import type { Intake, Options } from "./useIntake";

const DELIMITERS = [",", ";", "\t", "|"];
const NEW = "";

interface Props {
  intake: Intake;
  tables: Schemas["TableReply"][];
  me: Person;
  busy: boolean;
  onDecide: (options: Options) => void;
}

/** How the file was read and where it goes; every guess can be corrected, and the first rows show at once what that gives. */
export function ReadingStep({ intake, tables, me, busy, onDecide }: Props) {
  const reading = intake.reading;
  const options = intake.options;
  const [name, setName] = useState(options.newTable ?? "");
  const known = useFormats();
  const back = useFocusBack(busy);
  useEffect(() => {
    for (const row of reading?.rows ?? []) loadFontsOf(row.join(""));
  }, [reading]);
  if (!reading) return null;
  const choose = (change: Partial<Options>) => onDecide({ ...options, ...change });
  const settles = me.coordinator || Object.values(me.levels).includes("reviewer");

  const separated = reading.columns.length > 0;
  const spellsItself = known.formats.some((one) => one.name === reading.format && one.spellsItself);
  return (
    <div className="reading" aria-busy={busy} {...back}>
      {reading.blocked && <Alert severity="error">{reading.blocked}</Alert>}
      <div className="choices">
        <TextField
          select
          size="small"
          label={t("reading.into")}
          value={options.table ?? NEW}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          disabled={busy}
          onChange={(event) =>
            choose(
              event.target.value === NEW
                ? { table: undefined, newTable: name || intake.fileName }
                : { table: event.target.value, newTable: undefined },
            )
          }
        >
          {me.coordinator && <MenuItem value={NEW}>{t("reading.newTable")}</MenuItem>}
          {tables.map((table) => (
            <MenuItem key={table.slug} value={table.slug}>
              {table.name}
            </MenuItem>
          ))}
        </TextField>
        {!options.table && (
          <TextField
            size="small"
            label={t("reading.newName")}
            value={name}
            disabled={busy}
            onChange={(event) => setName(event.target.value)}
            onBlur={() => name !== options.newTable && choose({ newTable: name })}
            onKeyDown={(event) => event.key === "Enter" && choose({ newTable: name })}
          />
        )}
        {!options.table && (
          <TextField
            select
            size="small"
            label={t("reading.source")}
            value={options.source ?? "en"}
            disabled={busy}
            onChange={(event) => choose({ source: event.target.value })}
          >
            {[...new Set([options.source ?? "en", "en", ...reading.languages])].map((tag) => (
              <MenuItem key={tag} value={tag}>
                {tag}
              </MenuItem>
            ))}
          </TextField>
        )}
        <TextField
          select
          size="small"
          label={t("reading.arrival")}
          value={options.arrival ?? "OFFERED"}
          disabled={busy}
          onChange={(event) => choose({ arrival: event.target.value as NonNullable<Options["arrival"]> })}
        >
          {settles && <MenuItem value="SETTLED">{t("reading.SETTLED")}</MenuItem>}
          <MenuItem value="OFFERED">{t("reading.OFFERED")}</MenuItem>
          <MenuItem value="PENCILLED">{t("reading.PENCILLED")}</MenuItem>
        </TextField>
        <TextField
          select
          size="small"
          label={t("reading.format")}
          value={reading.format}
          disabled={busy}
          onChange={(event) =>
            choose({
              format: event.target.value,
              columns: undefined,
              headerRow: undefined,
              delimiter: undefined,
              keys: undefined,
              siblings: undefined,
            })
          }
        >
          {formatNames(known, reading.format).map((format) => (
            <MenuItem key={format} value={format}>
              {format === "" ? t("reading.unknownFormat") : formatLabel(format)}
            </MenuItem>
          ))}
        </TextField>
        {reading.language !== undefined && (
          <TagField
            tag={reading.language}
            label={t("reading.textsIn")}
            busy={busy}
            outlined
            onTag={(language) => choose({ language })}
          />
        )}
        <TextField
          select
          size="small"
          label={t("reading.charset")}
          value={reading.charset}
          disabled={busy || (spellsItself && !reading.unread)}
          onChange={(event) => choose({ charset: event.target.value })}
        >
          {[...new Set([...known.charsets, reading.charset])].map((charset) => (
            <MenuItem key={charset} value={charset}>
              {charset}
            </MenuItem>
          ))}
        </TextField>
        {reading.delimiter !== undefined && (
          <TextField
            select
            size="small"
            label={t("reading.delimiter")}
            value={reading.delimiter}
            disabled={busy}
            onChange={(event) =>
              choose({ delimiter: event.target.value, quote: reading.quote, columns: undefined, headerRow: undefined })
            }
          >
            {[...new Set([...DELIMITERS, reading.delimiter])].map((delimiter) => (
              <MenuItem key={delimiter} value={delimiter}>
                {delimiter === "\t" ? t("reading.tab") : delimiter}
              </MenuItem>
            ))}
          </TextField>
        )}
        {reading.keys && (
          <TextField
            select
            size="small"
            label={t("reading.keys")}
            value={reading.keys}
            disabled={busy}
            onChange={(event) => choose({ keys: event.target.value as NonNullable<Options["keys"]> })}
          >
            {reading.keyChoices.map((habit) => (
              <MenuItem key={habit} value={habit}>
                {t(`reading.keys.${habit}`)}
              </MenuItem>
            ))}
          </TextField>
        )}
        {reading.siblings && (
          <TextField
            select
            size="small"
            label={t("reading.siblings")}
            value={reading.siblings}
            disabled={busy}
            onChange={(event) => choose({ siblings: event.target.value as NonNullable<Options["siblings"]> })}
          >
            {(["FORMS", "LABELS"] as const).map((habit) => (
              <MenuItem key={habit} value={habit}>
                {t(`reading.siblings.${habit}`)}
              </MenuItem>
            ))}
          </TextField>
        )}
      </div>
      {reading.evidence.map((why) => (
        <p className="soft" key={why}>
          {why}
        </p>
      ))}
      <div className="checks">
        {!options.table && (
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={options.settlesOwn}
                disabled={busy}
                onChange={(event) => choose({ settlesOwn: event.target.checked })}
              />
            }
            label={t("reading.settlesOwn")}
          />
        )}
      </div>
      {reading.guarded && <p className="soft">{t("reading.guarded")}</p>}
      {options.table && reading.newLanguages.length > 0 && (
        <p className="soft">{t("reading.newLanguages", { languages: listed(reading.newLanguages) })}</p>
      )}
      {reading.unread ? (
        <p className="soft">{t("reading.unread")}</p>
      ) : reading.sheets.length > 0 ? (
        <Sheets reading={reading} busy={busy} onSheets={(sheets) => choose({ sheets })} />
      ) : (
        <>
          <h2>{t(separated ? "reading.firstRows" : "reading.firstEntries")}</h2>
          <ColumnsTable
            sheet={reading}
            label={t(separated ? "reading.firstRows" : "reading.firstEntries")}
            busy={busy}
            onColumns={(columns) => choose({ headerRow: reading.headerRow, columns })}
            onHeader={(headerRow) => choose({ headerRow, columns: undefined })}
          />
        </>
      )}
    </div>
  );
}
