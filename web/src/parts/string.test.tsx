// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { useLocation } from "react-router";
import { afterEach, expect, test, vi } from "vitest";
import { answer, around, aRideOfToday } from "../tests/around";
import { HorseString, useStringWalk } from "./string";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../api/client", async (real) => ({ ...(await real<object>()), api: server }));
afterEach(cleanup);

function Walk() {
  const walk = useStringWalk();
  return (
    <>
      <output>{useLocation().pathname}</output>
      <button onClick={() => walk(1)}>next</button>
      <button onClick={() => walk(-1)}>last</button>
    </>
  );
}

function hang(n: number, at = "/") {
  const rides = Array.from({ length: n }, (_, k) => ({
    ride: aRideOfToday({ id: `r${k}`, horse_id: `h${k}`, horse_name: `Horse ${k}`, starts_at: "07:30:00" }),
    slipping: k === 1 ? ["Flexion"] : [],
    call: k === 2 ? "back" : "hold",
  }));
  server.GET.mockReturnValue(answer({ date: "2026-03-02", rides }));
  // Where the page has to scroll to is the browser's affair.
  Element.prototype.scrollIntoView = vi.fn();
  const { wrapper, user } = around("trainer", at);
  render(
    <>
      <HorseString />
      <Walk />
    </>,
    { wrapper },
  );
  return user;
}

test("what fits on the screen hangs there first, and then all horses, each with its mark", async () => {
  hang(40);
  await screen.findByText("Horse 0");
  expect(screen.getAllByRole("link")).toHaveLength(16);
  await screen.findByText("Horse 39", {}, { timeout: 5_000 });
  const links = screen.getAllByRole("link");
  expect(links).toHaveLength(40);
  expect(links.slice(0, 3).map((l) => l.textContent)).toEqual([
    "Horse 007:30ride",
    "Horse 107:30slipping",
    "Horse 207:30slipping",
  ]);
});

test("the horse whose page is open is marked, and the walk goes round", async () => {
  const user = hang(3, "/horses/h2");
  const here = await screen.findByRole("link", { current: true });
  expect(here.textContent).toContain("Horse 2");
  await user.click(screen.getByRole("button", { name: "next" }));
  expect(screen.getByRole("status").textContent).toBe("/horses/h0");
  await user.click(screen.getByRole("button", { name: "last" }));
  expect(screen.getByRole("status").textContent).toBe("/horses/h2");
});

test("a day without rides says so", async () => {
  hang(0);
  expect(await screen.findByText("No rides today.")).toBeDefined();
});
