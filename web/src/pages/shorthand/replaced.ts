/** The text with a stretch of a line put in another's place. Columns are from 1, the last included. */
export function replaced(text: string, line: number, from: number, to: number, word: string): string {
  const lines = text.split("\n");
  const chars = [...(lines[line - 1] ?? "")];
  lines[line - 1] = [...chars.slice(0, from - 1), word, ...chars.slice(to)].join("");
  return lines.join("\n");
}
