/** How an appointment repeats, as it is picked in the form. */
export type Repeats = { unit: string; every: string; until: string; rule: string };

export const units: [string, string][] = [
  ["", "Once"],
  ["WEEKLY", "Every so many weeks"],
  ["MONTHLY", "Every so many months"],
  ["rule", "By a rule of your own (RFC 5545)"],
];
const unitName: Record<string, string> = { DAILY: "day", WEEKLY: "week", MONTHLY: "month", YEARLY: "year" };

/** The rule that was picked; the server says what is wrong with it. */
export function ruleOf({ unit, every, until, rule }: Repeats): string | null {
  if (unit === "") return null;
  if (unit === "rule") return rule.trim() === "" ? null : rule.trim();
  const end = until === "" ? "" : `;UNTIL=${until.replaceAll("-", "")}T235959Z`;
  return `FREQ=${unit};INTERVAL=${every.trim() === "" ? "1" : every.trim()}${end}`;
}

const simple =
  /^FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)(?:;INTERVAL=(\d+))?(?:;UNTIL=(\d{4})(\d\d)(\d\d)T\d{6}Z)?$/;

/** What to show in the form for a rule. */
export function pickOf(rule: string | null | undefined): Repeats {
  if (!rule) return { unit: "", every: "6", until: "", rule: "" };
  const [, unit, every, year, month, date] = simple.exec(rule) ?? [];
  if (!unit || !units.some(([u]) => u === unit)) return { unit: "rule", every: "1", until: "", rule };
  return { unit, every: every ?? "1", until: year ? `${year}-${month}-${date}` : "", rule };
}

/** `every 6 weeks, until 2026-12-31`; a rule that is more than that as it stands. */
export function inWords(rule: string): string {
  const [, unit, every = "1", year, month, date] = simple.exec(rule) ?? [];
  const name = unit && unitName[unit];
  if (!name) return rule;
  const until = year ? `, until ${year}-${month}-${date}` : "";
  return (every === "1" ? `every ${name}` : `every ${every} ${name}s`) + until;
}
