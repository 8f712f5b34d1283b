/** Workbooks of spreadsheet programs: XLSX (ISO/IEC 29500) and ODS (ISO/IEC 26300). Everything but the texts of entries survives being written. */
@NullMarked
@Uses({"format", "format.archive", "format.sheet", "format.source", "format.xml", "language"})
package mellow.core.format.workbook;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
