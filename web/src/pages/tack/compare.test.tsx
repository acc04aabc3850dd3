// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around } from "../../tests/around";
import { comparable, Compare, lastTwo } from "./compare";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const piece = (id: string, kind: Schemas["GearKind"], name: string, since: string, archived = false) =>
  ({ id, kind, name, since, archived, days: 10 }) as Schemas["GearOut"];
const pieces = [
  piece("new", "bit", "Dogbone", "2026-02-01"),
  piece("old", "bit", "Smooth", "2025-01-01", true),
  piece("saddle", "saddle", "Work saddle", "2024-01-01"),
  piece("wool", "saddle", "Wool saddle", "2026-03-01"),
  piece("boots", "boots", "Boots", "2026-03-01"),
];
const serve = (compared: Schemas["ComparedOut"]) =>
  server.GET.mockImplementation((path: string) =>
    answer(path.endsWith("/gear") ? { items: pieces, last_worn: [] } : compared),
  );
const found = (more: Partial<Schemas["FoundOut"]>): Schemas["ComparedOut"] => ({
  days: [12, 9],
  found: {
    verdict: "lighter",
    kinds: 3,
    asks: [80, 60],
    weight: { times: 0.6, low: 0.45, high: 0.8, in_a_month: 0.9 },
    seconds: null,
    whole: { by: 0.02, low: -0.05, high: 0.09, in_a_month: 0.1 },
    ...more,
  },
});

beforeEach(() => {
  server.GET.mockReset();
  serve(found({}));
});
afterEach(cleanup);

it("asks whether the change from the older piece to the newer was right", async () => {
  const { wrapper } = around();
  render(<Compare horse="Juniper" />, { wrapper });
  await screen.findByText("The change was right: the same answers for less.");
  expect(server.GET).toHaveBeenCalledWith("/api/horses/{id}/pieces-compared", {
    params: { path: { id: "Juniper" }, query: { first: "old", second: "new" } },
  });
  const all = document.body.textContent;
  expect(all).toContain("3 asks ridden in both: Smooth on 12 days (80 times), Dogbone on 9 days (60 times).");
  expect(all).toContain("Weight on the reins: 0.60 times (0.45 to 0.80); training alone −10 % a month");
  expect(all).toContain("Whole answers in a hundred: +2 (−5 to +9); training alone +10 a month.");
  expect(all).not.toContain("Seconds to the give");
});

it("says so where it cannot be told, and why where there are too few days", async () => {
  const { wrapper } = around();
  serve(found({ verdict: "unknown" }));
  const { unmount } = render(<Compare horse="Juniper" />, { wrapper });
  await screen.findByText(/cannot be told yet/);
  unmount();
  serve({ days: [1, 0], found: null, why_not: "it takes 3 in each" });
  const again = around();
  render(<Compare horse="Juniper" />, { wrapper: again.wrapper });
  await screen.findByText("Not yet: it takes 3 in each.");
});

it("compares with its own kind, the last two bits first, also what was put away", () => {
  const own = comparable(pieces);
  expect(own.map((p) => p.id)).toEqual(["saddle", "old", "new", "wool"]);
  expect(lastTwo(own)).toEqual(["old", "new"]);
  expect(lastTwo(own.filter((p) => p.kind === "saddle"))).toEqual(["saddle", "wool"]);
  expect(lastTwo([])).toEqual(["", ""]);
  const bosal = comparable([...pieces, piece("bosal", "bosal", "5/8", "2026-04-01")]);
  expect(lastTwo(bosal)).toEqual(["new", "bosal"]);
});

it("is silent where there is nothing to compare", async () => {
  const { wrapper } = around();
  server.GET.mockImplementation(() => answer({ items: pieces.slice(0, 1), last_worn: [] }));
  const { container } = render(<Compare horse="Juniper" />, { wrapper });
  await vi.waitFor(() => expect(server.GET).toHaveBeenCalledOnce());
  expect(container.textContent).toBe("");
});
