import { expect, test } from "vitest";
import { nextOf, putIn, shifted, swapped } from "./moves";
import type { Ride, Week } from "./use-week";

const ride = (more: Partial<Ride> = {}): Ride => ({
  work: "h1/S1",
  day: 2,
  start: "08:00",
  place: "arena",
  rider: "r1",
  locked: false,
  ridden: false,
  ...more,
});
const week = {
  first_open: 1,
  rides: [ride()],
  riders: [{ id: "r1", name: "Dell", hours: [{ day: 3, from: "06:30", to: "11:00" }] }],
  works: [
    { id: "h1/S1", minutes: 40, places: ["arena"], riders: ["r1"] },
    { id: "h2/T1", minutes: 40, places: ["round-pen"], riders: ["r1", "r2"] },
    { id: "h3/none", minutes: 40, places: [], riders: [] },
  ],
} as unknown as Week;

test("a ride moves within the days that are open and the hours of a day", () => {
  expect(shifted(week, ride(), 1, -1)).toMatchObject({ day: 3, start: "07:45" });
  expect(shifted(week, ride(), -9, 0).day).toBe(1);
  expect(shifted(week, ride(), 9, 0).day).toBe(6);
  expect(shifted(week, ride({ start: "00:00" }), 0, -1).start).toBe("00:00");
  expect(shifted(week, ride({ start: "23:45" }), 0, 1).start).toBe("23:45");
});

test("two rides change day, hour and rider, and keep their own places", () => {
  const [a, b] = swapped(
    ride(),
    ride({ work: "h2/T1", day: 4, start: "09:15", rider: "r2", place: "round-pen" }),
  );
  expect(a).toMatchObject({ work: "h1/S1", day: 4, start: "09:15", rider: "r2", place: "arena" });
  expect(b).toMatchObject({ work: "h2/T1", day: 2, start: "08:00", rider: "r1", place: "round-pen" });
});

test("a ride that is put in begins when the one before it ends, or with the rider's hours", () => {
  expect(putIn(week, "h2/T1", 2, "r1")).toMatchObject({ start: "08:45", place: "round-pen" });
  expect(putIn(week, "h2/T1", 3, null)).toMatchObject({ start: "06:30", rider: "r1" });
  expect(putIn(week, "h3/none", 3, null)).toBeNull();
});

test("the next of a list comes after the last one again", () => {
  expect(nextOf(["a", "b"], "b")).toBe("a");
  expect(nextOf([], "b")).toBe("b");
});
