import { describe, expect, it } from "vitest";
import { onTape, typedLength } from "../../parts/lengths";
import { draft, moved, opened, setUpOf, type SetUp } from "./draft";

const pocket = { entry: 1.2, back: 1.2, exit: 0.9 };
const setUp = (x: number): SetUp => ({
  start: { x: 0, y: 0 },
  finish: { x: 0, y: 0 },
  barrel_radius: 0.3,
  barrels: [{ at: { x, y: 20 }, turn: "right", pocket }],
});

describe("the draft", () => {
  it("undoes and redoes one change after the other", () => {
    let state = opened(setUp(1));
    for (const x of [2, 3, 4]) state = draft(state, { do: "change", to: setUp(x) });
    for (let n = 0; n < 5; n++) state = draft(state, { do: "undo" });
    expect(state.now.barrels[0]?.at.x).toBe(1);
    state = draft(draft(state, { do: "redo" }), { do: "redo" });
    expect(state.now.barrels[0]?.at.x).toBe(3);
    state = draft(state, { do: "change", to: setUp(9) });
    expect(draft(state, { do: "redo" })).toBe(state);
  });

  it("undoes a drag as one", () => {
    let state = opened(setUp(1));
    [2, 3, 4].forEach((x, n) => (state = draft(state, { do: "drag", to: setUp(x), first: n === 0 })));
    expect(draft(state, { do: "undo" }).now.barrels[0]?.at.x).toBe(1);
  });

  it("moves the line with its start and finish, and nothing else", () => {
    const to = moved(setUp(1), "line", { x: 5, y: 5 });
    expect([to.start, to.finish]).toEqual([
      { x: 5, y: 5 },
      { x: 5, y: 5 },
    ]);
    expect(to.barrels).toEqual(setUp(1).barrels);
  });
});

describe("a file", () => {
  it("gives the set-up back that was given out", () => {
    expect(setUpOf(JSON.stringify(setUp(3), null, 2))).toEqual(setUp(3));
  });

  it("that holds none says so", () => {
    expect(() => setUpOf("x")).toThrow("not JSON");
    expect(() => setUpOf("{}")).toThrow("holds no set-up");
    expect(() => setUpOf(JSON.stringify({ ...setUp(1), barrels: [{ at: { x: "1", y: 2 } }] }))).toThrow(
      "holds no set-up",
    );
  });
});

describe("lengths on a tape", () => {
  it("are told in feet and half inches, or in metres", () => {
    expect(onTape("imperial", 0.3048 * 4.5)).toBe("4 ft 6 in");
    expect(onTape("imperial", 0.3048 * 12)).toBe("12 ft");
    expect(onTape("imperial", 0.3048 * (3 + 2.5 / 12))).toBe("3 ft 2½ in");
    expect(onTape("imperial", 0.3048 * (3 + 11.9 / 12))).toBe("4 ft");
    expect(onTape("metric", 1.2345)).toBe("1.23 m");
  });

  it("are typed as people write them", () => {
    const feet = (text: string) =>
      Math.round(((typedLength("imperial", text) ?? NaN) / 0.3048) * 1000) / 1000;
    expect([
      feet("45"),
      feet("45.5"),
      feet("45 6"),
      feet(`45' 6"`),
      feet("45 ft 6 in"),
      feet("-3 6"),
    ]).toEqual([45, 45.5, 45.5, 45.5, 45.5, -3.5]);
    expect(typedLength("metric", "12,5")).toBe(12.5);
    expect([
      typedLength("imperial", "far"),
      typedLength("imperial", ""),
      typedLength("metric", "3 6"),
    ]).toEqual([null, null, null]);
  });
});
