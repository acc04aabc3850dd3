// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { Entry, TackLog } from "../../parts/tack-log";
import { ShareBar, tapped } from "./share-bar";

afterEach(cleanup);

const share = (id: string, bridle: number, asked: "bears" | "sharp" | null = null): Entry => ({
  id,
  at: `2026-03-02T10:0${id}:00Z`,
  event: { kind: "share", bridle, asked },
  version: 1,
  who: "Ada",
});
const show = (events: Entry[], begin: number | null = 35) => {
  const log = { log: vi.fn(), correct: vi.fn(), takeBack: vi.fn() };
  const seen = { share: begin === null ? null : { bridle: begin, why: "What it carries" } };
  render(<ShareBar log={{ ...log, events, seen } as unknown as TackLog} face="sun" />);
  const slide = (to: number) => {
    const slider = screen.getByRole("slider", { name: "Share on the bridle rein" });
    fireEvent.change(slider, { target: { value: String(to) } });
    fireEvent.pointerUp(slider);
  };
  return { ...log, slide };
};

it("begins with what the horse carries, or a tenth", () => {
  const first = show([]);
  fireEvent.click(screen.getByRole("button", { name: "Begin at 35" }));
  expect(first.log).toHaveBeenCalledWith({ kind: "share", bridle: 35, asked: null });
  cleanup();
  const other = show([], null);
  other.slide(20);
  expect(other.log).toHaveBeenCalledWith({ kind: "share", bridle: 20, asked: null });
});

it("moves by the slider, once a move, with who asked before it or after it", () => {
  const before = show([share("1", 35)]);
  fireEvent.click(screen.getByRole("button", { name: "Bears / Roots" }));
  before.slide(45);
  expect(before.log.mock.calls).toEqual([[{ kind: "share", bridle: 45, asked: "bears" }]]);
  before.slide(35);
  expect(before.log).toHaveBeenCalledOnce();
  cleanup();
  const move = share("2", 45);
  const after = show([share("1", 35), move]);
  fireEvent.click(screen.getByRole("button", { name: "Sharp" }));
  expect(after.correct).toHaveBeenCalledWith(move, { kind: "share", bridle: 45, asked: "sharp" });
  fireEvent.click(screen.getByRole("button", { name: "Take the last share back" }));
  expect(after.takeBack).toHaveBeenCalledWith(move);
});

it("says of a move that was asked for already that the next tap is of the next move", () => {
  const { correct, log, slide } = show([share("1", 35), share("2", 45, "sharp")]);
  expect(screen.getByRole("button", { name: "Sharp" }).getAttribute("aria-pressed")).toBe("true");
  fireEvent.click(screen.getByRole("button", { name: "Rider" }));
  expect(correct).not.toHaveBeenCalled();
  slide(30);
  expect(log).toHaveBeenCalledWith({ kind: "share", bridle: 30, asked: "rider" });
});

it("cycles through the words of a button", () => {
  const both: Parameters<typeof tapped>[0] = [
    ["tired", "Tired"],
    ["scared", "Scared"],
  ];
  expect([tapped(both, null), tapped(both, "tired"), tapped(both, "scared"), tapped(both, "bears")]).toEqual([
    "tired",
    "scared",
    null,
    "tired",
  ]);
});
