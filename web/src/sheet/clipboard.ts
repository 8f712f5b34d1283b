import { inOrder, MAIN, type Forms } from "../text/shapes";

/**
 * A block of texts as spreadsheet programs put it into the clipboard: tabs between cells, line breaks between rows; a cell with a tab, a line
 * break or a quote at its start stands in double quotes, and quotes within it are doubled.
 */
export function writeBlock(cells: string[][]): string {
  return cells.map((row) => row.map(quoted).join("\t")).join("\n");
}

function quoted(text: string): string {
  return /[\t\n\r]/.test(text) || text.startsWith('"') ? `"${text.replaceAll('"', '""')}"` : text;
}

/** The cells of such a block; a line break at its end makes no row. Rows may differ in length. */
export function readBlock(text: string): string[][] {
  const rows: string[][] = [];
  let row: string[] = [];
  let at = 0;
  while (at <= text.length) {
    let cell: string;
    const closing = text[at] === '"' ? closingQuote(text, at) : -1;
    if (closing > 0) {
      cell = text.slice(at + 1, closing).replaceAll('""', '"');
      at = closing + 1;
    } else {
      const end = text.slice(at).search(/[\t\r\n]/);
      cell = end < 0 ? text.slice(at) : text.slice(at, at + end);
      at += cell.length;
    }
    row.push(cell.replaceAll("\r\n", "\n"));
    if (text[at] === "\t") {
      at++;
      continue;
    }
    rows.push(row);
    row = [];
    if (at >= text.length) break;
    at += text.startsWith("\r\n", at) ? 2 : 1;
    if (at >= text.length) break;
  }
  return rows;
}

/** Where the quote that closes a cell stands: before a tab, a line break or the end. -1 when the first quote is part of the text. */
function closingQuote(text: string, open: number): number {
  for (let at = open + 1; at < text.length; at++) {
    if (text[at] !== '"') continue;
    if (text[at + 1] === '"') at++;
    else return at + 1 === text.length || "\t\r\n".includes(text[at + 1] ?? "") ? at : -1;
  }
  return -1;
}

/** A text of several forms as one cell: a line "form: text" for each. */
export function writeForms(forms: Forms): string {
  const plain = Object.keys(forms).every((form) => form === MAIN);
  return plain
    ? (forms[MAIN] ?? "")
    : inOrder(forms)
        .map(([form, text]) => `${form}: ${text}`)
        .join("\n");
}

/** The forms of such a cell, or null when it is not written like that. */
export function readForms(text: string, known: string[]): Forms | null {
  const forms: Forms = {};
  let last = "";
  for (const line of text.split("\n")) {
    const found = /^([a-z]+|\d+): ?(.*)$/s.exec(line);
    if (found?.[1] !== undefined && known.includes(found[1])) {
      last = found[1];
      forms[last] = found[2] ?? "";
    } else if (last) {
      forms[last] += `\n${line}`;
    } else {
      return null;
    }
  }
  return forms;
}
