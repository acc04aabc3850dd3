// @vitest-environment happy-dom
import { act, cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, expect, test, vi } from "vitest";
import { Grid } from "./grid";
import type { Lane } from "./spots";
import { Tray } from "./tray";
import { useHands } from "./use-hands";
import type { Ride } from "./use-week";
import { aRide, aWeek } from "./week.fixture";

afterEach(cleanup);

const add = vi.fn();

/** The week as the page puts it together, with its rides kept in the hand. */
function Hands({ by = "rider", mayChange = true }: { by?: Lane; mayChange?: boolean }) {
  const [rides, change] = useState<Ride[]>(aWeek().rides);
  const week = aWeek({ rides });
  const hands = useHands(week, { change, add }, by, mayChange);
  return (
    <>
      <Grid
        week={week}
        by={by}
        selected={hands.selected}
        carrying={!!hands.carrying}
        onSelect={hands.select}
        onDrag={hands.setCarrying}
        onPut={(spot) => void hands.put(spot)}
        onKey={hands.press}
      />
      <button onClick={hands.letGo}>Let go</button>
      <button
        onClick={() => {
          const ride = hands.find(hands.selected);
          if (ride) hands.on(week, ride).swap();
        }}
      >
        Swap
      </button>
      <Tray week={week} mayChange={mayChange} carrying={hands.carrying} onTake={hands.setCarrying} />
    </>
  );
}

const juniper = () => screen.getByRole("button", { name: /Juniper: Flexion/ });
const biscuit = () => screen.getByRole("button", { name: /Biscuit: Hip over/ });
const label = (of: HTMLElement) => of.getAttribute("aria-label");

test("a ride is picked with the mouse, moved with the keys, and keeps the focus wherever it goes", async () => {
  const user = userEvent.setup();
  render(<Hands />);
  await user.click(juniper());
  expect(juniper().getAttribute("aria-pressed")).toBe("true");
  await user.keyboard("{ArrowDown}{ArrowDown}{ArrowRight}");
  expect(label(juniper())).toContain("08:30");
  expect(document.activeElement).toBe(juniper());
  expect(juniper().dataset.ride).toBe("juniper/S1|3|08:30");
  await user.keyboard("{ArrowUp}{ArrowLeft}{ArrowLeft}{ArrowLeft}{ArrowLeft}");
  // Not before the first day that is open.
  expect(juniper().dataset.ride).toBe("juniper/S1|1|08:15");
});

test("keys lock a ride, give it to the next rider, put it elsewhere, and drop it", async () => {
  const user = userEvent.setup();
  render(<Hands />);
  await user.click(juniper());
  await user.keyboard("l");
  expect(label(juniper())).toContain("locked");
  await user.keyboard("re");
  expect(label(juniper())).toMatch(/Round pen, Mara Quill/);
  await user.keyboard("lr");
  expect(label(juniper())).toMatch(/Dell Okafor.*load 30$/);
  await user.keyboard("{Delete}");
  expect(screen.queryByRole("button", { name: /Juniper: Flexion/ })).toBeNull();
  expect(biscuit()).toBeDefined();
});

test("two rides change places: the first picked, then the other", async () => {
  const user = userEvent.setup();
  render(<Hands />);
  await user.click(juniper());
  await user.click(screen.getByRole("button", { name: "Swap" }));
  await user.click(biscuit());
  expect(label(juniper())).toMatch(/^09:15 Juniper: Flexion, Arena, Mara Quill/);
  expect(label(biscuit())).toMatch(/^08:00 Biscuit: Hip over, Round pen, Dell Okafor/);
  expect(juniper().getAttribute("aria-pressed")).toBe("true");
});

test("who may not change the week can look at a ride and no more", async () => {
  const user = userEvent.setup();
  render(<Hands mayChange={false} />);
  await user.click(juniper());
  await user.keyboard("{ArrowDown}l{Delete}");
  expect(label(juniper())).toMatch(/^08:00 Juniper: Flexion, Arena, Dell Okafor, 40 minutes, load 30$/);
  expect(screen.queryByRole("button", { name: "Add" })).toBeNull();
});

test("what was left out stands by its worth, and is put on a day of a rider or a place", async () => {
  const user = userEvent.setup();
  add.mockResolvedValue(aRide({ work: "biscuit/S4", day: 5 }));
  render(<Hands by="place" />);
  const tray = screen.getByRole("region", { name: "Left out" });
  const rows = within(tray)
    .getAllByRole("listitem")
    .map((row) => row.textContent);
  // Biscuit's second ride of it would be worth 16, Juniper's first back-up 12.
  expect(rows[0]).toContain("Biscuit: Hip over");
  expect(rows[0]).toContain("one more ride, next on its ladder, worth 16: Biscuit has its 5 rides");
  expect(rows[1]).toContain("2 more rides, next on its ladder, worth 12");
  expect(screen.queryByRole("button", { name: /^Put it here/ })).toBeNull();
  const [putIn] = within(tray).getAllByRole("button", { name: "Add" });
  await user.click(putIn as HTMLElement);
  // Two places, and the six days that are open.
  expect(screen.getAllByRole("button", { name: /^Put it here/ })).toHaveLength(12);
  await user.click(screen.getByRole("button", { name: "Put it here: Round pen, day 6" }));
  expect(add).toHaveBeenCalledExactlyOnceWith("biscuit/S4", 5, { place: "round-pen" });
  expect(screen.queryByRole("button", { name: /^Put it here/ })).toBeNull();
});

test("a ride that is carried to another rider's day goes there at its own hour", async () => {
  render(<Hands />);
  // Mara's Saturday.
  const cell = () => document.querySelectorAll(".row.long:nth-of-type(3) .cell")[5];
  await act(async () => void juniper().dispatchEvent(new Event("dragstart", { bubbles: true })));
  expect(screen.getAllByRole("button", { name: /^Put it here/ }).length).toBeGreaterThan(0);
  await act(async () => void cell()?.dispatchEvent(new Event("drop", { bubbles: true })));
  expect(label(juniper())).toMatch(/^08:00 Juniper: Flexion, Arena, Mara Quill/);
  expect(juniper().dataset.ride).toBe("juniper/S1|5|08:00");
  expect(cell()?.contains(juniper())).toBe(true);
});

test("letting go ends what is picked and what is carried", async () => {
  const user = userEvent.setup();
  render(<Hands />);
  await user.click(juniper());
  const [putIn] = screen.getAllByRole("button", { name: "Add" });
  await user.click(putIn as HTMLElement);
  await user.click(screen.getByRole("button", { name: "Let go" }));
  expect(juniper().getAttribute("aria-pressed")).toBe("false");
  expect(screen.queryByRole("button", { name: /^Put it here/ })).toBeNull();
});
