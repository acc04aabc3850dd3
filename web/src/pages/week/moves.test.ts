import { expect, test } from "vitest";
import { nextOf, shifted, swapped } from "./moves";
import type { Ride, Week } from "./use-week";
import { aRide } from "./week.fixture";

const ride = (more: Partial<Ride> = {}) => aRide({ work: "h1/S1", rider: "r1", ...more });
const quarters = ["00:00", "00:15", "07:45", "08:00", "08:15", "23:30", "23:45"];
const week = { first_open: 1, starts: quarters } as unknown as Week;

test("a ride moves within the days that are open and the hours of a day", () => {
  expect(shifted(week, ride(), 1, -1)).toMatchObject({ day: 3, start: "07:45" });
  expect(shifted(week, ride(), -9, 0).day).toBe(1);
  expect(shifted(week, ride(), 9, 0).day).toBe(6);
  expect(shifted(week, ride({ start: "00:00" }), 0, -1).start).toBe("00:00");
  expect(shifted(week, ride({ start: "23:45" }), 0, 1).start).toBe("23:45");
  expect(shifted({ ...week, starts: ["08:00", "08:30", "09:00"] }, ride(), 0, 2).start).toBe("09:00");
});

test("two rides change day, hour and rider, and keep their own places", () => {
  const [a, b] = swapped(
    ride(),
    ride({ work: "h2/T1", day: 4, start: "09:15", rider: "r2", place: "round-pen" }),
  );
  expect(a).toMatchObject({ work: "h1/S1", day: 4, start: "09:15", rider: "r2", place: "arena" });
  expect(b).toMatchObject({ work: "h2/T1", day: 2, start: "08:00", rider: "r1", place: "round-pen" });
});

test("the next of a list comes after the last one again", () => {
  expect(nextOf(["a", "b"], "b")).toBe("a");
  expect(nextOf([], "b")).toBe("b");
});
