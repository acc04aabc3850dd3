import type { Schemas } from "../../api/client";

type Horse = Schemas["OverviewHorse"];

export type Column = "name" | "subject" | "call" | "ridden" | "stiff" | "next";

export const columns: { id: Column; name: string }[] = [
  { id: "name", name: "Horse" },
  { id: "subject", name: "On" },
  { id: "call", name: "Call" },
  { id: "ridden", name: "Ridden" },
  { id: "stiff", name: "Stiff side" },
  { id: "next", name: "Next" },
];

/** What needs a hand first comes first. */
const urgency = ["look-at", "leave-alone", "back", "hold", "advance"];

/** Whole days since a horse was ridden; null for one that was not. */
export function daysSince(horse: Horse, today: string): number | null {
  if (!horse.last_ridden) return null;
  return Math.round((Date.parse(today) - Date.parse(horse.last_ridden)) / 86_400_000);
}

function key(horse: Horse, by: Column): string | number | null {
  switch (by) {
    case "name":
      return horse.name;
    case "subject":
      return horse.subject ? `${horse.ladder} ${horse.subject}` : null;
    case "call":
      return horse.call ? urgency.indexOf(horse.call) : null;
    case "ridden":
      return horse.last_ridden ?? null;
    case "stiff":
      return horse.stiff ?? null;
    case "next":
      return horse.next?.date ?? null;
  }
}

/** Horses by a column; what has nothing there comes last either way, and horses that are alike by name. */
export function sorted(horses: readonly Horse[], by: Column, down: boolean): Horse[] {
  return [...horses].sort((a, b) => {
    const [x, y] = [key(a, by), key(b, by)];
    if (x === null || y === null) return x === y ? a.name.localeCompare(b.name) : x === null ? 1 : -1;
    const order = typeof x === "number" ? x - (y as number) : x.localeCompare(y as string);
    return (down ? -order : order) || a.name.localeCompare(b.name);
  });
}
