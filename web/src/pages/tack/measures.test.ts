import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { INCH } from "../../parts/inches";
import { begin, fieldsOf, measuresOf } from "./measures";
import { degrees, newtons } from "./tack-words";
import { lean, turnedBetween } from "./tilt";
import { byHorse } from "./wall";

const piece = (more: Partial<Schemas["PieceOut"]>) =>
  ({
    id: "p",
    horse_id: "h",
    horse: "Juniper",
    mouthpiece: "leverage",
    measured: null,
    ...more,
  }) as Schemas["PieceOut"];

describe("measures", () => {
  const typed = {
    purchase: "1 3/4",
    shank: "5",
    sweep: "15",
    slack: "1½",
    chin_behind: "2",
    headstall: "18",
    "chin.by": "tape",
    "chin.below": "1/4",
  };

  it("are read as people type them, and come back into the form", () => {
    const measures = measuresOf("leverage", typed, "imperial");
    if (measures?.kind !== "leverage") throw new Error("no measures");
    expect(measures.purchase).toBeCloseTo(1.75 * INCH, 9);
    expect(degrees(measures.sweep)).toBeCloseTo(15, 9);
    expect(measures.chin).toEqual({ by: "tape", below: expect.closeTo(0.25 * INCH, 9) as number });
    const measured = { measures, measured_on: "2026-03-02", version: 1 };
    expect(begin(piece({ measured }), "imperial")).toMatchObject({
      purchase: "1¾",
      slack: "1½",
      "chin.below": "¼",
    });
    expect(begin(piece({ measured }), "metric")).toMatchObject({ purchase: "44.4", shank: "127" });
  });

  it("take the chin by the angle too, and are none while something is missing", () => {
    const angle = measuresOf("leverage", { ...typed, "chin.by": "angle", "chin.tight": "46" }, "imperial");
    expect(angle).toMatchObject({ chin: { by: "angle", tight: expect.closeTo(0.80285, 4) as number } });
    expect(measuresOf("leverage", { ...typed, "chin.by": "angle" }, "imperial")).toBeNull();
    expect(measuresOf("leverage", { ...typed, shank: "long" }, "imperial")).toBeNull();
    expect(fieldsOf("bitless", {}).map((f) => f.key)).toEqual(["length", "jaw", "thick", "lean"]);
    expect(measuresOf("snaffle", { width: "127", ring: "76" }, "metric")).toEqual({
      kind: "snaffle",
      width: 0.127,
      ring: 0.076,
    });
  });
});

it("a phone on the shank tells how far it turned, the shorter way", () => {
  expect(lean(0, 9.81)).toBe(0);
  expect(lean(9.81, 0)).toBe(90);
  expect(turnedBetween(170, -170)).toBe(20);
  expect(turnedBetween(10, 55.5)).toBe(45.5);
});

it("forces are told to what means something", () => {
  expect([0.44, 7.24, 14.6, 223.9].map(newtons)).toEqual(["0.4 N", "7.2 N", "15 N", "225 N"]);
});

it("hangs leverage first, then who has more than one, then by name", () => {
  const own = (horse: string, mouthpiece: Schemas["Mouthpiece"], id: string) =>
    piece({ id, horse, horse_id: horse, mouthpiece });
  const hung = byHorse([
    own("Ash", "snaffle", "1"),
    own("Briar", "snaffle", "2"),
    own("Briar", "bitless", "3"),
    own("Clove", "leverage", "4"),
    own("Dill", "snaffle", "5"),
  ]);
  expect(hung.map(([horse]) => horse)).toEqual(["Clove", "Briar", "Ash", "Dill"]);
  expect(hung[1]?.[1]).toHaveLength(2);
});
