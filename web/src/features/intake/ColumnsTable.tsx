import { MenuItem, TextField } from "@mui/material";
import { useId } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { TagField } from "./TagField";

const ROLES = ["KEY", "CONTEXT", "SECTION", "NOTE", "LIMIT", "REFERENCE", "TEXT", "IGNORED"] as const;

interface Props {
  /** First rows, with what their columns hold; without columns the first row is a heading that nobody changes. */
  sheet: { rows: string[][]; columns: Schemas["ColumnChoice"][]; headerRow: number };
  label: string;
  busy: boolean;
  onColumns: (columns: Schemas["ColumnChoice"][]) => void;
  onHeader: (row: number) => void;
}

/** The first rows of a sheet; what each column holds and which row is the header can be corrected. */
export function ColumnsTable({ sheet, label, busy, onColumns, onHeader }: Props) {
  const group = useId();
  const corrected = sheet.columns.length > 0 || sheet.headerRow >= 0;
  const setColumn = (at: number, change: Partial<Schemas["ColumnChoice"]>) =>
    onColumns(sheet.columns.map((column, one) => (one === at ? { ...column, ...change } : column)));
  return (
    <div className="rows" tabIndex={0} role="region" aria-label={label}>
      <table>
        <thead>
          <tr>
            {corrected && <td />}
            {!corrected &&
              sheet.rows[0]?.map((heading, at) => (
                <th key={at} scope="col">
                  {heading}
                </th>
              ))}
            {sheet.columns.map((column, at) => (
              <th key={at} scope="col">
                <TextField
                  select
                  size="small"
                  variant="standard"
                  value={column.role}
                  disabled={busy}
                  slotProps={{ htmlInput: { "aria-label": t("reading.role", { n: at + 1 }) } }}
                  onChange={(event) =>
                    setColumn(at, {
                      role: event.target.value as (typeof ROLES)[number],
                      language: event.target.value === "TEXT" ? (column.language ?? "en") : undefined,
                    })
                  }
                >
                  {ROLES.map((role) => (
                    <MenuItem key={role} value={role}>
                      {t(`role.${role}`)}
                    </MenuItem>
                  ))}
                </TextField>
                {column.role === "TEXT" && (
                  <TagField
                    tag={column.language ?? ""}
                    label={t("reading.language", { n: at + 1 })}
                    busy={busy}
                    onTag={(language) => setColumn(at, { language })}
                  />
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(corrected ? sheet.rows : sheet.rows.slice(1)).map((row, index) => (
            <tr key={index} className={index === sheet.headerRow ? "header" : index < sheet.headerRow ? "above" : ""}>
              {corrected && (
                <td>
                  <input
                    type="radio"
                    name={group}
                    checked={index === sheet.headerRow}
                    disabled={busy}
                    aria-label={t("reading.headerRow", { n: index + 1 })}
                    title={t("reading.headerRow", { n: index + 1 })}
                    onChange={() => onHeader(index)}
                  />
                </td>
              )}
              {row.map((cell, at) => (
                <td key={at} dir="auto">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
