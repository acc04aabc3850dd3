// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { INCH } from "../../parts/inches";
import { answer, around, refusal } from "../../tests/around";
import { HeldFacts, StrapFacts } from "./held-facts";
import { Wall } from "./wall";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const piece = (more: Partial<Schemas["PieceOut"]>): Schemas["PieceOut"] => ({
  id: "p",
  horse_id: "h",
  horse: "Juniper",
  name: "Smooth",
  mouthpiece: "snaffle",
  since: "2025-06-01",
  mouth_seen: "2026-02-01",
  teeth_seen: "2026-02-01",
  teeth_due: false,
  classes: [],
  days: 12,
  last_worn: "2026-02-27",
  today: false,
  ...more,
});
const wall = (pieces: Schemas["PieceOut"][], role: Schemas["Role"] = "trainer") => {
  const { wrapper, user } = around(role);
  const on = { onBench: vi.fn(), onHorse: vi.fn() };
  render(<Wall pieces={pieces} {...on} />, { wrapper });
  return { user, ...on };
};

beforeEach(() => {
  server.PUT.mockReset().mockImplementation(() => answer({ version: 1 }));
});
afterEach(cleanup);

it("says when teeth were seen over a year ago, or never", () => {
  wall([
    piece({}),
    piece({ id: "q", teeth_seen: "2025-02-01", teeth_due: true }),
    piece({ id: "r", teeth_seen: null, teeth_due: true }),
  ]);
  expect(screen.getByText(/^Teeth seen Sun, Feb 1$/)).toBeTruthy();
  expect(screen.getByText(/over a year ago/)).toBeTruthy();
  expect(screen.getByText("Teeth not seen")).toBeTruthy();
});

it("lets an owner look and change nothing", () => {
  wall([piece({}), piece({ id: "q", name: "Bosal", mouthpiece: "bitless" })], "owner");
  expect(screen.queryAllByRole("button")).toHaveLength(0);
});

it("measures a piece, and shows at its field what the server asks about", async () => {
  const { user } = wall([piece({})]);
  await user.click(screen.getByRole("button", { name: "Measure Smooth" }));
  const form = within(screen.getByRole("dialog"));
  const save = form.getByRole("button", { name: "Save" });
  expect(save.hasAttribute("disabled")).toBe(true);
  await user.type(form.getByLabelText(/Between the rings/), "127");
  await user.type(form.getByLabelText(/Across a ring/), "3");
  const asks = "3 to 8 in; were these 127 millimetres? That is 5.00 in";
  server.PUT.mockImplementationOnce(() =>
    refusal(asks, { errors: [{ field: "measures.width", detail: asks }] }),
  );
  await user.click(save);
  await form.findByText(asks);
  const [, sent] = server.PUT.mock.calls[0] as [string, { body: Schemas["MeasuresIn"] }];
  expect(sent.body.version).toBe(0);
  expect(sent.body.measures).toMatchObject({ kind: "snaffle", ring: 3 * INCH });
  // What was typed is still there.
  expect((form.getByLabelText(/Between the rings/) as HTMLInputElement).value).toBe("127");
});

const held = (more: Partial<Schemas["HeldOut"]>): Schemas["HeldOut"] => ({
  weight: 5,
  word: "fingers",
  turn: 0.8,
  tight: true,
  curb: 52,
  poll: 12,
  back: 50,
  up: -20,
  nose: 0,
  jaw: 0,
  ...more,
});
const edge = (tight: number | null): Schemas["StrapOut"] => ({ slack: 0.03, tight, takes_hold: "good" });
const hung: Schemas["HungOut"] = {
  chin_behind: 0.05,
  chin_below: 0,
  tight: 0.8,
  over: 2,
  takes_hold: "good",
  means: "the shank turns first",
  most_slack: 0.05,
  lever_by_length: 2.9,
  lever_at_rest: 3.7,
  lever_tight: 8,
  less: edge(0.7),
  more: edge(null),
};

it("tells forces in newtons and by the reins, and under a light hand only the turn", () => {
  const { rerender } = render(<HeldFacts held={held({})} hung={hung} />);
  expect(document.body.textContent).toContain(
    "With two fingers on each rein (5 N) the shank turns 46° and the strap is tight.",
  );
  expect(document.body.textContent).toContain("In the mouth54 N5.4 × the reins");
  rerender(<HeldFacts held={held({ weight: 0.3, word: "egg", tight: false, curb: 0 })} hung={hung} />);
  expect(document.body.textContent).toContain("So light that only the turn counts.");
  rerender(<HeldFacts held={held({ nose: 8.5, jaw: 7.9 })} />);
  expect(document.body.textContent).toContain("Under the jaw7.9 N0.8 × the reins");
});

it("tells what an eighth of an inch of strap does", () => {
  const { rerender } = render(<StrapFacts hung={hung} />);
  expect(document.body.textContent).toContain("The strap holds well, at 46°");
  expect(document.body.textContent).toContain("An eighth of an inch less: 40°. More: never.");
  rerender(<StrapFacts hung={{ ...hung, tight: null, takes_hold: "never", lever_tight: null }} />);
  expect(document.body.textContent).toContain("The strap never takes hold");
});
