// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { answer, around, refusal } from "../../tests/around";
import { Owned } from "./owned";

const GET = vi.hoisted(() => vi.fn());
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: { GET } }));
afterEach(cleanup);

const book = {
  ladders: [
    { letter: "S", name: "Softness" },
    { letter: "B", name: "Barrels" },
  ],
  rungs: [
    { id: "S1", name: "Flexion", ladder: "S" },
    { id: "S6", name: "Poll", ladder: "S" },
    { id: "B1", name: "Pattern at the walk", ladder: "B" },
  ],
  steps: [
    { id: "S1", rung: "S1", name: "Flexion", gait: "stand", sides: ["left", "right"], needs: [] },
    { id: "S6@walk", rung: "S6", name: "Poll at the walk", gait: "walk", sides: ["both"], needs: [] },
    { id: "S6@jog", rung: "S6", name: "Poll at the jog", gait: "jog", sides: ["both"], needs: [] },
    { id: "B1", rung: "B1", name: "Pattern", gait: "walk", sides: ["both"], needs: [] },
  ],
};
const step = (status: string, left: string | null = null, right: string | null = null) => ({
  status,
  left,
  right,
  due: false,
});
const horses = [
  { id: "h1", name: "Juniper", horse: null, steps: { S1: step("learning", "learning", "owned") } },
  {
    id: "h2",
    name: "Wren",
    horse: "look-at",
    steps: { "S6@walk": step("owned"), "S6@jog": step("slipping") },
  },
];

function open(owned: () => unknown) {
  GET.mockReset().mockImplementation((path: string) => {
    if (path === "/api/owned") return owned();
    return answer(path.endsWith("/curriculum") ? book : { people: [] });
  });
  const { wrapper, user } = around();
  render(<Owned />, { wrapper });
  return user;
}

test("horses down, the ladders that anyone was asked across, a dot a rung and a half a side", async () => {
  open(() => answer({ date: "2026-03-02", horses }));
  const table = within(await screen.findByRole("table"));
  expect(table.getAllByRole("columnheader").map((h) => h.textContent)).toEqual(["Horse", "Softness"]);
  const row = (name: string) => within(table.getByRole("row", { name: new RegExp(name) }));
  const dots = (name: string) =>
    row(name)
      .getAllByRole("img")
      .map((i) => i.getAttribute("aria-label"));
  expect(row("Juniper").getByRole("link", { name: "Juniper" }).getAttribute("href")).toBe("/horses/h1");
  expect(dots("Juniper")).toEqual(["Flexion: left in work, right owned", "Poll: not begun"]);
  // The fastest gait that was asked is the one shown.
  expect(dots("Wren")[1]).toBe("Poll at the jog: slipping");
  expect(row("Wren").getByText(/look at/i)).toBeDefined();
});

test("what could not be loaded says so and can be tried again", async () => {
  let fails = true;
  const user = open(() =>
    fails ? refusal("The barn is out of reach") : answer({ date: "2026-03-02", horses }),
  );
  await screen.findByText("The barn is out of reach");
  fails = false;
  await user.click(screen.getByRole("button", { name: "Try again" }));
  await screen.findByRole("link", { name: "Juniper" });
});
