/** Workbooks of spreadsheet programs: XLSX (ISO/IEC 29500) and ODS (ISO/IEC 26300). Everything but the texts of entries survives being written. */
@NullMarked
package mellow.core.format.workbook;

import org.jspecify.annotations.NullMarked;
