import Papa from "papaparse";
import type { Schemas } from "../../api/client";
import { put, type Edits } from "./grid";

type Table = Schemas["ValueTable"];

// In brackets, so that no field can be called so.
const pageColumn = "(page)";
const placementColumn = "(placement)";

/** The table as CSV: page and address of each placement, then its values by field. */
export function toCsv(table: Table): string {
  return (
    Papa.unparse(
      {
        fields: [pageColumn, placementColumn, ...table.fields.map((f) => f.name)],
        data: table.rows.map((r) => [r.page, r.address, ...r.cells.map((c) => c.text)]),
      },
      { newline: "\n" },
    ) + "\n"
  );
}

/** What a CSV would set, and each line of it that fits nothing. A cell that says what
 *  shows already sets nothing; an empty one takes back what the page says. Without a
 *  column for placements a page's only placement is meant. */
export function fromCsv(
  table: Table,
  text: string,
  edits: Edits,
): { edits: Map<string, string | null>; problems: string[] } {
  const problems: string[] = [];
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ""), { skipEmptyLines: "greedy" });
  for (const e of parsed.errors)
    if (e.code !== "UndetectableDelimiter") problems.push(`Line ${(e.row ?? 0) + 1}: ${e.message}`);
  const [head = [], ...lines] = parsed.data;
  const names = head.map((h) => h.trim());
  const pageAt = names.indexOf(pageColumn);
  const addressAt = names.indexOf(placementColumn);
  if (pageAt < 0)
    return {
      edits: new Map(edits),
      problems: [
        `The first line has to name the columns: ${pageColumn}, ${placementColumn} and fields of the block.`,
      ],
    };
  const columns = names.flatMap((name, i) => {
    const col = table.fields.findIndex((f) => f.name === name);
    if (col >= 0) return [{ i, col }];
    if (i !== pageAt && i !== addressAt && name)
      problems.push(`The column ${name} is no field of the block; it is left out.`);
    return [];
  });
  let out = new Map(edits);
  lines.forEach((line, n) => {
    const page = (line[pageAt] ?? "").trim();
    const address = addressAt < 0 ? "" : (line[addressAt] ?? "").trim();
    const fits = table.rows.flatMap((r, row) =>
      r.page === page && (!address || r.address === address) ? [row] : [],
    );
    const row = fits[0];
    if (row === undefined)
      problems.push(
        `Line ${n + 2}: ${table.rows.some((r) => r.page === page) ? `${page} has no placement of the block at ${address}` : `the block does not stand on ${page || "a page without an address"}`}.`,
      );
    else if (fits.length > 1)
      problems.push(
        `Line ${n + 2}: the block stands on ${page} ${fits.length} times; say which one in a column ${placementColumn}.`,
      );
    else
      for (const { i, col } of columns) {
        const v = line[i] ?? "";
        if (v !== table.rows[row]?.cells[col]?.text)
          out = put(table, table.rows, out, [{ row, col }], () => (v === "" ? null : v));
      }
  });
  return { edits: out, problems };
}
