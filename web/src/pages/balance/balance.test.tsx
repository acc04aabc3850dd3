// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { oxblood, sageDark } from "../../theme/tokens";
import { Balance } from "./balance";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
afterEach(cleanup);

type Week = Schemas["HorseWeek"];
const week = (rides: number, more: Partial<Week> = {}): Week => ({
  rides,
  out: 0,
  load: 60 * rides,
  monotony: null,
  strain: null,
  too_much_alike: false,
  kept: null,
  ...more,
});
const told: Schemas["Balance"] = {
  weeks: ["2026-02-09", "2026-02-16", "2026-02-23", "2026-03-02"],
  horses: [
    {
      id: "h1",
      name: "Juniper",
      least: 3,
      most: 4,
      kept: 2,
      judged: 3,
      // Laid up in the second week: no ride, and nothing missing.
      weeks: [
        week(3, { kept: true, out: 1 }),
        week(0, { kept: true }),
        week(2, { kept: false, monotony: 2.31, too_much_alike: true, out: 2 }),
        week(1),
      ],
    },
    {
      id: "h2",
      name: "Biscuit",
      least: null,
      most: null,
      kept: null,
      judged: 3,
      weeks: [0, 1, 2, 0].map((n) => week(n)),
    },
  ],
  riders: [{ id: "p1", name: "Dell Okafor", rides: [3, 1, 4, 1] }],
  subjects: [{ id: "S", name: "Softness", rides: [2, 0, 1, 1] }],
  missed: [
    { why: "weather", rides: 3 },
    { why: null, rides: 1 },
  ],
  too_much_alike: 2,
};
beforeEach(() => {
  server.GET.mockReset().mockImplementation(() => Promise.resolve({ data: told, response: { ok: true } }));
});

function page() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
        <Balance />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup({ delay: null });
}
const row = async (name: string) =>
  (await screen.findByRole("rowheader", { name })).closest("tr") as HTMLElement;

test("a horse's weeks are told as bars and as a sentence, and what was agreed on as weeks kept", async () => {
  page();
  const juniper = await row("Juniper");
  const bars = within(juniper).getByRole("img", {
    name: "Rides, week by week: 3, 0, 2, 1; at least 3 were agreed on",
  });
  expect(within(juniper).getByText("2 of 3 weeks")).toBeDefined();
  expect(within(juniper).getByText("2.3 too even")).toBeDefined();
  expect(juniper.lastElementChild?.textContent).toBe("3");
  // Red is a week in which the rides agreed on were not ridden, and none that is not judged; this week's bar is hollow.
  const colours = [...bars.querySelectorAll("rect")].map((bar) => [
    bar.getAttribute("fill"),
    bar.getAttribute("stroke"),
  ]);
  expect(colours).toEqual([
    [sageDark, "none"],
    [sageDark, "none"],
    [oxblood, "none"],
    ["none", sageDark],
  ]);
  const biscuit = await row("Biscuit");
  expect(within(biscuit).getByText("nothing agreed")).toBeDefined();
  expect(within(biscuit).getByText("–")).toBeDefined();
});

test("bars stand to one scale, and a week without rides has none", async () => {
  page();
  const bars = within(await row("Juniper")).getByRole("img", {
    name: /^Load, week by week: 180, 0, 120, 60/,
  });
  const heights = [...bars.querySelectorAll("rect")].map((bar) => Number(bar.getAttribute("height")));
  expect(heights[1]).toBe(0);
  expect((heights[0] ?? 0) / (heights[2] ?? 1)).toBeCloseTo(1.5);
  expect((heights[2] ?? 0) / (heights[3] ?? 1)).toBeCloseTo(2);
});

test("riders, subjects and what was not ridden have their sums and reasons", async () => {
  page();
  expect(await screen.findByText(/^9 rides since Mon, Feb 9/)).toBeDefined();
  expect(
    within(screen.getByRole("region", { name: "Who rode, week by week" })).getByText("9 rides"),
  ).toBeDefined();
  expect(
    within(screen.getByRole("region", { name: "What was worked, week by week" })).getByText("4 rides"),
  ).toBeDefined();
  const missed = screen.getByRole("heading", { name: "Planned and not ridden" }).parentElement as HTMLElement;
  expect(
    within(missed)
      .getAllByRole("listitem")
      .map((li) => li.textContent),
  ).toEqual(["Weather3", "No reason given1"]);
});

test("another stretch is asked for and stands as pressed; weeks without a ride say so", async () => {
  const user = page();
  await row("Juniper");
  server.GET.mockImplementation(() =>
    Promise.resolve({ data: { ...told, riders: [], subjects: [], missed: [] }, response: { ok: true } }),
  );
  await user.click(screen.getByRole("button", { name: "A year" }));
  expect(await screen.findByText("Nothing was ridden in these weeks.")).toBeDefined();
  expect(screen.getByRole("button", { name: "A year" }).getAttribute("aria-pressed")).toBe("true");
  expect(server.GET).toHaveBeenLastCalledWith("/api/balance", { params: { query: { weeks: 52 } } });
});

test("a balance that does not come says why, and is asked for again", async () => {
  server.GET.mockImplementation(() => Promise.reject(new TypeError("no network")));
  const user = page();
  expect((await screen.findByRole("alert")).textContent).toContain("Couldn't reach the server");
  server.GET.mockImplementation(() => Promise.resolve({ data: told, response: { ok: true } }));
  await user.click(screen.getByRole("button", { name: "Try again" }));
  expect(await row("Juniper")).toBeDefined();
});
