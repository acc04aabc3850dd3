/** A coordinate as it is typed. */
const COORDINATE = "-?\\d+(?:\\.\\d+)?(?:\\s*(?:ft|in|yd|m)(?![\\w-]))?";
const PLACED = new RegExp(
  `^(\\s*(?:mark\\s+[a-z][\\w-]*|start)\\s+)${COORDINATE}\\s+${COORDINATE}(?![\\w.])`,
  "i",
);

const typed = (feet: number) => String(Math.round(feet * 2) / 2);

/** The text with the mark or the start of a line (from 1) put somewhere else, feet; the same where the line places nothing. */
export function placed(text: string, line: number, x: number, y: number): string {
  const lines = text.split("\n");
  const old = lines[line - 1];
  if (old === undefined || !PLACED.test(old)) return text;
  lines[line - 1] = old.replace(PLACED, (_, head: string) => `${head}${typed(x)} ${typed(y)}`);
  return lines.join("\n");
}

/** Feet in a unit: exact by the international yard and pound agreement of 1959. */
const FEET: Record<string, number> = { ft: 1, in: 1 / 12, yd: 3, m: 1 / 0.3048 };

/** The text with the mark or the start of a line moved by so many feet from where it says. */
export function nudged(text: string, line: number, dx: number, dy: number): string {
  const old = PLACED.exec(text.split("\n")[line - 1] ?? "")?.[0] ?? "";
  const [x, y] = [
    ...old.replace(/^\s*\w+(\s+[a-z][\w-]*)?/i, "").matchAll(/(-?[\d.]+)\s*(ft|in|yd|m)?/gi),
  ].map((one) => Number(one[1]) * (FEET[one[2]?.toLowerCase() ?? "ft"] ?? 1));
  return x === undefined || y === undefined ? text : placed(text, line, x + dx, y + dy);
}

/** A straight line by its length. */
const STRAIGHT = /^(\s*line\s+)(\d+(?:\.\d+)?)(?:\s*(ft|in|yd|m)(?![\w-]))?/i;

/** The text with the straight of a line (from 1) made so many feet longer, in its own unit; the same where that is no straight, or nothing
 * would be left of it. */
export function lengthened(text: string, line: number, feet: number): string {
  const lines = text.split("\n");
  const old = lines[line - 1] ?? "";
  const found = STRAIGHT.exec(old);
  if (!found) return text;
  const unit = found[3]?.toLowerCase() ?? "ft";
  const length = Math.round((Number(found[2]) + feet / (FEET[unit] ?? 1)) * 10) / 10;
  if (length <= 0) return text;
  lines[line - 1] = old.replace(
    STRAIGHT,
    (_, head: string) => `${head}${length}${found[3] ? ` ${found[3]}` : ""}`,
  );
  return lines.join("\n");
}

/** The text with more lines at its end: before a stop that ends it, if there is one. */
export function appended(text: string, more: string): string {
  const lines = text.trimEnd().split("\n");
  const ends = /^\s*stop\s*(#.*)?$/i.test(lines.at(-1) ?? "") ? lines.splice(-1) : [];
  return [...lines, ...more.trimEnd().split("\n"), ...ends, ""].join("\n");
}

/** The line of the start, from 1; none where the figure says nothing of it, or begins at a name. */
export function startLine(text: string): number | null {
  const found = text.split("\n").findIndex((line) => /^\s*start\s/i.test(line) && PLACED.test(line));
  return found < 0 ? null : found + 1;
}

/** Where a line and column, both from 1, stand in the text. */
export function offsetOf(text: string, line: number, column: number): number {
  const lines = text.split("\n");
  const before = lines.slice(0, line - 1).reduce((sum, one) => sum + one.length + 1, 0);
  // Columns are counted in characters, the field counts in units of UTF-16.
  return before + [...(lines[line - 1] ?? "")].slice(0, column - 1).join("").length;
}
