import { expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { faultSays, goes, inShort, linesSay, notesOf } from "./figure-words";

const ridden = (more: Partial<Schemas["RiddenOut"]>): Schemas["RiddenOut"] => ({
  text: "",
  mirrored: "",
  steps: [],
  path: [],
  places: [],
  gaits: [],
  length: 30.48,
  seconds: 75,
  closes: true,
  near: [],
  outside: 0,
  leads: [],
  changes: [],
  tight: [],
  run_ups: [],
  obstacles: [],
  rungs: [],
  measured: false,
  load: 0,
  course: [],
  lay: [],
  calls: [],
  manoeuvres: [],
  ...more,
});

it("says how long a figure is and whether it closes", () => {
  expect(inShort(ridden({}), "imperial")).toBe("100 ft, 1 min 15 s, ends where it began");
  expect(inShort(ridden({ closes: false, seconds: 9.6 }), "metric")).toBe("30.5 m, 10 s");
  expect([linesSay([3]), linesSay([1, 2, 3, 4, 5, 9])]).toEqual(["Line 3", "Lines 1, 2, 3, 4 and 2 more"]);
  expect(goes("lope", "left")).toBe("at the lope, left lead");
});

it("puts what is wrong in words once, by line, the fence first", () => {
  const obstacle = {
    line: 4,
    word: "poles",
    gait: "jog",
    measure: 0.7,
    least: 0.9144,
    most: 1.0668,
    rule: "under",
    asks: "shorten",
    strides: null,
  } as const;
  const notes = notesOf(
    ridden({
      near: [{ name: null, distance: 0, at: { x: 0, y: 0 }, fits: false }],
      outside: 6.1,
      obstacles: [obstacle],
      leads: [
        { line: 2, kind: "wrong" },
        { line: 2, kind: "wrong" },
      ],
    }),
    "Wren",
    "imperial",
  );
  expect(notes.map((note) => note.line)).toEqual([null, 2, 4]);
  expect(notes[0]?.text).toBe("It leaves the pen: 20 ft of it are outside.");
  expect(notes[2]?.text).toContain("rule books have 3 ft to 3 ft 6 in at the jog");
});

it("says what should stand where the text goes wrong", () => {
  const fault = { line: 1, column: 1, says: "expected hand", code: "expected" } as const;
  expect(faultSays({ ...fault, wanted: ["hand"] })).toBe("Here comes left or right.");
  expect(faultSays({ ...fault, wanted: ["unit", "times", "end of line"] })).toBe(
    "Here comes a unit (ft, in, yd, m), “times” or nothing more.",
  );
  expect(faultSays({ ...fault, code: "name", says: "nothing has this name", wanted: [] })).toBe(
    "Nothing has this name.",
  );
});
