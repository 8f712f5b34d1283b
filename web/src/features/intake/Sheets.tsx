import { Checkbox, FormControlLabel } from "@mui/material";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { ColumnsTable } from "./ColumnsTable";

type Sheet = Schemas["SheetReply"];
type Choice = Schemas["SheetChoice"];

interface Props {
  reading: Schemas["ReadingReply"];
  busy: boolean;
  onSheets: (sheets: Choice[]) => void;
}

/** The sheets of a workbook: which are taken, and what their columns hold. */
export function Sheets({ reading, busy, onSheets }: Props) {
  const decide = (name: string, change: Partial<Choice>) =>
    onSheets(reading.sheets.map((sheet) => (sheet.name === name ? { ...said(sheet), ...change } : said(sheet))));
  return reading.sheets.map((sheet) => (
    <section key={sheet.name} aria-label={sheet.name}>
      <FormControlLabel
        className="sheetname"
        control={
          <Checkbox
            size="small"
            checked={sheet.taken}
            disabled={busy}
            onChange={(event) => decide(sheet.name, { columns: [], headerRow: event.target.checked ? 0 : -1 })}
          />
        }
        label={t("reading.sheet", { name: sheet.name })}
      />
      <ColumnsTable
        sheet={sheet}
        label={t("reading.sheetRows", { name: sheet.name })}
        busy={busy}
        onColumns={(columns) => decide(sheet.name, { columns })}
        onHeader={(headerRow) => decide(sheet.name, { headerRow, columns: [] })}
      />
    </section>
  ));
}

/** What holds for a sheet now. */
function said(sheet: Sheet): Choice {
  return sheet.taken
    ? { name: sheet.name, headerRow: sheet.headerRow, columns: sheet.columns }
    : { name: sheet.name, headerRow: -1, columns: [] };
}
