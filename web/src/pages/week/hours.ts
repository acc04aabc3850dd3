import type { Schemas } from "../../api/client";

export const weekdays = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** The stretches of one day as they are typed: `7:00-12:00, 14:00-17:00`. Each is sent as it stands; the server says what is wrong. */
export function typedHours(weekday: number, text: string): Schemas["HoursIn"][] {
  return text
    .split(",")
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => {
      const [from = "", to = ""] = part.split(/[-–]/).map((t) => t.trim());
      return { weekday, from: twoDigits(from), to: twoDigits(to) };
    });
}

/** `7` and `7:30` are hours too: `07:00` and `07:30`. */
function twoDigits(time: string): string {
  const found = /^(\d{1,2})(?::(\d{2}))?$/.exec(time);
  return found ? `${(found[1] ?? "").padStart(2, "0")}:${found[2] ?? "00"}` : time;
}

/** The same, written from what is kept. */
export function hoursText(weekday: number, hours: { weekday: number; from: string; to: string }[]): string {
  return hours
    .filter((h) => h.weekday === weekday)
    .map((h) => `${h.from}-${h.to}`)
    .join(", ");
}
