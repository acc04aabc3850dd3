import { Refused } from "../api/client";

/**
 * Numbers as they were typed, by field; null where nothing was. A comma will do for the point. JSON has no word for what is no
 * number: sent, it would arrive as nothing at all, and take away what stood there.
 *
 * @throws Refused naming each field in which something else stands.
 */
export function numbers<K extends string>(typed: Record<K, string>): Record<K, number | null> {
  const read = Object.entries<string>(typed).map(([field, text]) => {
    const number = text.trim() === "" ? null : Number(text.trim().replace(",", "."));
    return { field, number, detail: `“${text.trim()}” is not a number` };
  });
  const errors = read
    .filter((r) => r.number !== null && !Number.isFinite(r.number))
    .map(({ field, detail }) => ({ field, detail }));
  const [first] = errors;
  if (first)
    throw new Refused({
      type: "/problems/fields",
      title: "Not understood",
      status: 422,
      detail: first.detail,
      errors,
    });
  return Object.fromEntries(read.map((r) => [r.field, r.number])) as Record<K, number | null>;
}
