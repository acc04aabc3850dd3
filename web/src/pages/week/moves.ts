import type { Ride, Week } from "./use-week";

/** A ride so many days and slots later, as far as the week and the day reach. */
export function shifted(week: Week, ride: Ride, days: number, slots: number): Ride {
  const day = Math.min(6, Math.max(week.first_open, ride.day + days));
  const at = Math.min(
    week.starts.length - 1,
    Math.max(0, week.starts.findLastIndex((s) => s <= ride.start) + slots),
  );
  return { ...ride, day, start: week.starts[at] ?? ride.start };
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
