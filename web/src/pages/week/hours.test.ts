import { expect, test } from "vitest";
import { hoursText, typedHours } from "./hours";

test("stretches are read as people write them, and written back", () => {
  const read = typedHours(2, "7-12:00, 14:00 – 17:30");
  expect(read).toEqual([
    { weekday: 2, from: "07:00", to: "12:00" },
    { weekday: 2, from: "14:00", to: "17:30" },
  ]);
  expect(hoursText(2, read)).toBe("07:00-12:00, 14:00-17:30");
  expect(hoursText(3, read)).toBe("");
});

test("nothing typed is no hours, and nonsense goes to the server as it is", () => {
  expect(typedHours(0, " , ")).toEqual([]);
  expect(typedHours(0, "morning")).toEqual([{ weekday: 0, from: "morning", to: "" }]);
});
