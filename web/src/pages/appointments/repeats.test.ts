import { expect, test } from "vitest";
import { inWords, pickOf, ruleOf } from "./repeats";

test("what is picked comes back as it was picked", () => {
  for (const rule of [
    "FREQ=WEEKLY;INTERVAL=6",
    "FREQ=MONTHLY;INTERVAL=1;UNTIL=20261231T235959Z",
    "FREQ=MONTHLY;BYDAY=1FR",
    "FREQ=DAILY;COUNT=10",
  ])
    expect(ruleOf(pickOf(rule))).toBe(rule);
  expect(ruleOf(pickOf(null))).toBeNull();
  expect(ruleOf({ unit: "rule", every: "", until: "", rule: "  " })).toBeNull();
  // What cannot be is sent as it was typed: the server says why.
  expect(ruleOf({ unit: "WEEKLY", every: "often", until: "", rule: "" })).toBe("FREQ=WEEKLY;INTERVAL=often");
});

test("a rule is told in words, or as it stands", () => {
  expect(inWords("FREQ=WEEKLY")).toBe("every week");
  expect(inWords("FREQ=WEEKLY;INTERVAL=6")).toBe("every 6 weeks");
  expect(inWords("FREQ=MONTHLY;INTERVAL=2;UNTIL=20261231T235959Z")).toBe("every 2 months, until 2026-12-31");
  expect(inWords("FREQ=MONTHLY;BYDAY=1FR")).toBe("FREQ=MONTHLY;BYDAY=1FR");
});
