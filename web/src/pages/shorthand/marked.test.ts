import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { piecesOf } from "./marked";
import { replaced } from "./replaced";

const read = (
  words: Schemas["WordOut"][],
  diagnostics: Schemas["DiagnosticOut"][] = [],
): Schemas["ShorthandResponse"] => ({ rides: [], stored: false, words, diagnostics });

it("cuts a line into what was understood, what was not, and what lies between", () => {
  const told = read(
    [
      { line: 1, from: 1, to: 4, says: "S1 Flexion" },
      { line: 1, from: 6, to: 6, says: "side: left" },
    ],
    [{ line: 1, from: 8, to: 11, says: "means nothing here", nearest: "6/8" }],
  );
  expect(piecesOf("flex L 6//8 x", 1, told)).toEqual([
    { text: "flex", says: "S1 Flexion", wrong: false },
    { text: " ", says: null, wrong: false },
    { text: "L", says: "side: left", wrong: false },
    { text: " ", says: null, wrong: false },
    { text: "6//8", says: "means nothing here", wrong: true },
    { text: " x", says: null, wrong: false },
  ]);
  expect(piecesOf("flex", 2, told)).toEqual([{ text: "flex", says: null, wrong: false }]);
});

it("counts columns by characters, not by halves of them", () => {
  const told = read([{ line: 1, from: 3, to: 6, says: "S1 Flexion" }]);
  expect(piecesOf("𝄞 flex", 1, told).map((p) => p.text)).toEqual(["𝄞 ", "flex"]);
  expect(replaced("𝄞 flexx L", 1, 3, 7, "flex")).toBe("𝄞 flex L");
});

it("puts a word in the place of another on its own line alone", () => {
  expect(replaced("a\nflex L lemmon\nb", 2, 8, 13, "lemon")).toBe("a\nflex L lemon\nb");
  expect(replaced("x", 1, 1, 1, "egg")).toBe("egg");
});
