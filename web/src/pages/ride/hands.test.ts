import { expect, test } from "vitest";
import { nextCow, otherRider } from "./hands";

test("the next cow has the next number, whatever it is called", () => {
  expect([null, "3", "red 9", "99", "muley"].map(nextCow)).toEqual(["1", "4", "red 10", "100", "muley 2"]);
});

test("the one who gets on next is who rode before, else who holds the device, the usual rider, the trainer", () => {
  const people = [
    { id: "t", name: "Tess", role: "trainer" },
    { id: "d", name: "Dell", role: "assistant" },
    { id: "o", name: "Odo", role: "owner" },
  ];
  expect(otherRider("t", "o", "t", "d", people)?.name).toBe("Odo");
  expect(otherRider("t", null, "d", "d", people)?.name).toBe("Dell");
  expect(otherRider("d", null, "d", "d", people)?.name).toBe("Tess");
  expect(otherRider("t", null, "t", null, people)).toBeUndefined();
});
