import Papa from 'papaparse'

/**
 * Rows as CSV (RFC 4180). Cells that a spreadsheet would take for a formula are led by an apostrophe; numbers stay numbers.
 */
export const csvOf = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse(
    rows.map((row) => [...row]),
    { escapeFormulae: /^(?![+-]?\d+(?:\.\d+)?$)[=+\-@\t\r]/ },
  )
