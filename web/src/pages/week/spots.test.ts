import { expect, test } from "vitest";
import { known } from "./known";
import { lanesOf, ridesBySpot } from "./spots";
import type { Ride } from "./use-week";
import { aRide } from "./week.fixture";

const ride = (more: Partial<Ride>) => aRide({ work: "h1/S1", day: 0, rider: "r1", ...more });

test("rides stand on their day in the lane of their rider or place, by the hour", () => {
  const early = ride({ start: "07:15", work: "h2/T1" });
  const late = ride({ start: "10:00", place: "trail" });
  const same = ride({ start: "07:15", work: "h1/S1", rider: "r2" });
  const other = ride({ day: 3 });
  const byRider = ridesBySpot([late, other, same, early], "rider");
  expect(byRider({ day: 0, lane: "r1" })).toEqual([early, late]);
  expect(byRider({ day: 0, lane: "r2" })).toEqual([same]);
  expect(byRider({ day: 3, lane: "r1" })).toEqual([other]);
  expect(byRider({ day: 6, lane: "r1" })).toEqual([]);
  const byPlace = ridesBySpot([late, other, same, early], "place");
  // Two at one hour stand in the order of their works, whichever came first.
  expect(byPlace({ day: 0, lane: "arena" })).toEqual([same, early]);
  expect(byPlace({ day: 0, lane: "trail" })).toEqual([late]);
});

test("every ride has one spot, in either way of looking", () => {
  const rides = Array.from({ length: 60 }, (_, n) =>
    ride({ day: n % 7, rider: `r${n % 4}`, place: n % 3 ? "arena" : "trail", start: `${10 + (n % 9)}:00` }),
  );
  for (const [by, lanes] of [
    ["rider", ["r0", "r1", "r2", "r3"]],
    ["place", ["arena", "trail"]],
  ] as const) {
    const at = ridesBySpot(rides, by);
    const all = lanes.flatMap((lane) => [0, 1, 2, 3, 4, 5, 6].flatMap((day) => at({ day, lane })));
    expect(all).toHaveLength(rides.length);
    expect(new Set(all)).toEqual(new Set(rides));
  }
});

test("lanes keep the order of the server, and places have their names", () => {
  const week = {
    riders: [
      { id: "b", name: "Mara", hours: [] },
      { id: "a", name: "Dell", hours: [] },
    ],
    places: [{ place: "round-pen" as const, at_once: 1 }],
  };
  expect(lanesOf(week, "rider")).toEqual([
    { id: "b", name: "Mara" },
    { id: "a", name: "Dell" },
  ]);
  expect(lanesOf(week, "place")).toEqual([{ id: "round-pen", name: "Round pen" }]);
});

test("what has an id is found in its own list, also after the list is another", () => {
  const list = [
    { id: "a", name: "one" },
    { id: "b", name: "two" },
  ];
  expect(known(list, "b")?.name).toBe("two");
  expect(known(list, "c")).toBeUndefined();
  expect(known(list, undefined)).toBeUndefined();
  expect(known([{ id: "b", name: "three" }], "b")?.name).toBe("three");
  expect(known([], "b")).toBeUndefined();
});
