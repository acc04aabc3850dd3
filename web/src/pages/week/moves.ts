import type { Ride, Week } from "./use-week";

const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3, 5));
const clock = (at: number) =>
  `${String(Math.floor(at / 60)).padStart(2, "0")}:${String(at % 60).padStart(2, "0")}`;

/** A ride so many days and slots later, as far as the week and the day reach. */
export function shifted(week: Week, ride: Ride, days: number, slots: number): Ride {
  const slot = week.slot_minutes;
  const day = Math.min(6, Math.max(week.first_open, ride.day + days));
  const start = Math.min(24 * 60 - slot, Math.max(0, minutes(ride.start) + slot * slots));
  return { ...ride, day, start: clock(start) };
}

/** The next of a list behind this one, from the end back to the first. */
export function nextOf<T>(list: T[], at: T): T {
  return list[(list.indexOf(at) + 1) % list.length] ?? at;
}

/** Two rides in each other's place: day, hour, and rider. Each stays where its own work is ridden. */
export function swapped(a: Ride, b: Ride): [Ride, Ride] {
  return [
    { ...a, day: b.day, start: b.start, rider: b.rider },
    { ...b, day: a.day, start: a.start, rider: a.rider },
  ];
}

/** The first day of the week so many weeks on. */
export const weekOn = (start: string, weeks: number) =>
  new Date(Date.parse(`${start}T00:00:00Z`) + weeks * 7 * 86_400_000).toISOString().slice(0, 10);
