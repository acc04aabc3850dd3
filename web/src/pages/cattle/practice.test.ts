import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { saysNow } from "./practice";

const at = (lead: number, apart: number, lost = false) =>
  saysNow({
    lead,
    zone: 12,
    pen: [80, 60],
    seconds: 1,
    now: { cow: { x: 40, y: 30 }, horse: { x: 40, y: 30 - apart }, lost },
  } as unknown as Schemas["PracticeOut"]);

it("says what is wrong with where the horse is", () => {
  expect(at(0, 9)).toBe("In position.");
  expect(at(-5, 9)).toContain("Behind");
  expect(at(5, 9)).toContain("Past its head");
  expect(at(0, 3)).toContain("Too near");
  expect(at(0, 20)).toContain("Far off");
  expect(at(0, 9, true)).toContain("back with the herd");
});
