import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { says } from "./fence-drawing";

const asked = { top: 30 } as Schemas["FenceIn"];
const found = (mark: Partial<Schemas["FenceMarkOut"]>) =>
  ({
    marks: [{ position: "leg", made: null, start: 0, least_top: null, ...mark }],
    past: [],
    most_speed: null,
    band: [3, 3],
  }) satisfies Schemas["FenceOut"];

it("says when the horse gets there, or what it would take", () => {
  const made = { seconds: 4.25, cow: 90, clear: 60 };
  expect(says(asked, found({ made, start: 12 }))).toBe(
    "At its head after 4.3 s, with 60 ft of fence left. The cow may have 12 ft more start.",
  );
  expect(says(asked, found({ made: { ...made, seconds: 0 } }))).toContain("already");
  expect(says(asked, found({ start: -8.2, least_top: 34 }))).toContain(
    "8 ft further back, or the horse has to run 34 ft/s",
  );
  expect(says(asked, found({ start: -30 }))).toContain("Let it go");
  expect(says(asked, { ...found({}), marks: [] })).toContain("tires");
});
