import type { Ride, Week } from "./use-week";

export const aRide = (more: Partial<Ride> = {}): Ride => ({
  work: "juniper/S1",
  day: 2,
  start: "08:00",
  place: "arena",
  rider: "dell",
  locked: false,
  ridden: false,
  ...more,
});

const work = (horse: string, step: string, name: string, worth: number[]): Week["works"][number] => ({
  id: `${horse}/${step}`,
  horse_id: horse,
  name,
  motive: "next",
  minutes: 40,
  load: 30,
  worth,
  gap_days: 1,
  cows: 0,
  places: ["arena", "round-pen"],
  riders: ["dell", "mara"],
  why: [`Next on its ladder: worth ${worth.join(", then ")}`],
});

const horse = (id: string, name: string): Week["horses"][number] => ({
  id,
  name,
  least: 4,
  most: 5,
  two_days: 95,
  week: 210,
  why: "4 to 5 rides a week, usual",
});

/** A week of two horses and two riders, with what is said of it. */
export const aWeek = (more: Partial<Week> = {}): Week => ({
  start: "2026-03-02",
  previous: "2026-02-23",
  next: "2026-03-09",
  today: null,
  first_open: 1,
  starts: Array.from(
    { length: 96 },
    (_, n) => `${String(Math.floor(n / 4)).padStart(2, "0")}:${String((n % 4) * 15).padStart(2, "0")}`,
  ),
  state: "draft",
  version: 3,
  riders: [
    { id: "dell", name: "Dell Okafor", hours: [] },
    { id: "mara", name: "Mara Quill", hours: [] },
  ],
  places: [
    { place: "round-pen", at_once: 1 },
    { place: "arena", at_once: 3 },
  ],
  horses: [horse("juniper", "Juniper"), horse("biscuit", "Biscuit")],
  works: [
    work("juniper", "S1", "Flexion", [20, 14]),
    work("juniper", "T1", "Back-up", [12, 7]),
    work("biscuit", "S4", "Hip over", [24, 16]),
  ],
  heat: [],
  away: [],
  appointments: [],
  warnings: [],
  rides: [aRide(), aRide({ work: "biscuit/S4", day: 4, start: "09:15", rider: "mara", place: "round-pen" })],
  judged: {
    score: 44,
    breaks: [],
    short: [],
    left_out: [
      { work: "juniper/T1", missed: 2, why: "Dell Okafor is out of hours" },
      { work: "biscuit/S4", missed: 1, why: "Biscuit has its 5 rides" },
    ],
  },
  gone: [],
  ...more,
});
