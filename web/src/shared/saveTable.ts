type Cell = string | number | null | undefined;

const STARTS_A_FORMULA = /^[=+\-@\t\r]/;

/** Rows under named columns as CSV (RFC 4180). A text that a spreadsheet would take for a formula gets an apostrophe. */
export function csvText(columns: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const cell = (value: Cell) => {
    if (value === null || value === undefined) return "";
    const text = typeof value === "string" && STARTS_A_FORMULA.test(value) ? `'${value}` : String(value);
    return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return [columns, ...rows].map((row) => `${row.map(cell).join(",")}\n`).join("");
}

/** Saves what was answered as CSV, with every digit that came. */
export function saveTable(
  name: string,
  columns: readonly string[],
  rows: readonly (readonly Cell[])[],
): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([csvText(columns, rows)], { type: "text/csv" }));
  link.download = `${name}.csv`;
  link.click();
  URL.revokeObjectURL(link.href);
}
