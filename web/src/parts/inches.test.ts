import { describe, expect, it } from "vitest";
import { INCH, onRule, typedFor, typedSmall } from "./inches";

describe("small lengths", () => {
  it("are read off a rule to the eighth of an inch, or in millimetres", () => {
    expect([1.75, 0.5, 5, 0, -0.25, 1.9999].map((v) => onRule("imperial", v * INCH))).toEqual([
      "1¾ in",
      "½ in",
      "5 in",
      "0 in",
      "−¼ in",
      "2 in",
    ]);
    expect(onRule("metric", 0.0445)).toBe("45 mm");
  });

  it("are typed as people write them", () => {
    const typed = ["1 3/4", "1¾", "1.75", "1,75", '1 3/4"', "3/4", "½", "-1/4", "5 in"];
    expect(typed.map((t) => Math.round(((typedSmall("imperial", t) ?? NaN) / INCH) * 100) / 100)).toEqual([
      1.75, 1.75, 1.75, 1.75, 1.75, 0.75, 0.5, -0.25, 5,
    ]);
    expect(typedSmall("metric", "44")).toBeCloseTo(0.044, 9);
    expect(["", "soon", "1/0", "1 2 3", "/"].map((t) => typedSmall("imperial", t))).toEqual(
      Array(5).fill(null),
    );
  });

  it("come back from a form as they went in", () => {
    for (const inches of [1.75, 5, 0.25, 11.125])
      expect(typedSmall("imperial", typedFor("imperial", inches * INCH))).toBeCloseTo(inches * INCH, 9);
    expect(typedSmall("metric", typedFor("metric", 0.0445))).toBeCloseTo(0.0445, 9);
  });
});
