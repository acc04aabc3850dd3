// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around, refusal } from "../../tests/around";
import { Afterwards } from "./afterwards";

const { GET, PUT } = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: { GET, PUT } }));
afterEach(cleanup);

const book = {
  rungs: [
    { id: "S1", measure: { kind: "reps" }, faults: [] },
    { id: "S4", measure: { kind: "reps" }, faults: [] },
    { id: "T1", measure: { kind: "steps", count: 10 }, faults: ["crooked"] },
  ],
  faults: [{ tag: "crooked", name: "Crooked" }],
  steps: [
    { id: "S1", rung: "S1", name: "Flexion", gait: "stand", sides: ["left", "right"], needs: [] },
    { id: "S4", rung: "S4", name: "Hip over", gait: "stand", sides: ["left", "right"], needs: [] },
    { id: "T1", rung: "T1", name: "Back-up", gait: "walk", sides: ["both"], needs: [] },
  ],
  signs: [{ tag: "licks", name: "Licks", soft: true }],
  weights: [{ weight: "egg" }, { weight: "lemon" }],
};

function open(planned: object[] = []) {
  GET.mockReset().mockImplementation((path: string) => {
    if (path.endsWith("/standing")) return answer({ line: { main: { id: "S4" } } });
    if (path.endsWith("/planned")) return answer({ items: planned });
    if (path.endsWith("/gear")) return answer({ items: worn, last_worn: ["g1"] });
    if (path.endsWith("/grounds")) return answer({ items: own });
    if (path.endsWith("/people")) return answer({ items: riders, more: false });
    if (path.endsWith("/rides"))
      return answer({ items: [{ rider_id: "p2", place: "outside" }], more: false });
    return answer(path.endsWith("/curriculum") ? book : { id: "h1", name: "Juniper" });
  });
  PUT.mockReset();
  const { wrapper, user } = around();
  render(<Afterwards />, { wrapper });
  return user;
}

const worn = [
  { id: "g1", name: "Snaffle", archived: false },
  { id: "g2", name: "Work saddle", archived: false },
];
const own = [{ id: "o1", name: "The creek", place: "trail" }];
const riders = [
  { id: "p1", name: "Ada" },
  { id: "p2", name: "Dell" },
];
const at = (call: number) => PUT.mock.calls[call]?.[1].params.path.id as string;
const sent = (call: number) => PUT.mock.calls[call]?.[1].body as Schemas["RideIn"];

test("takes a ride by sets from the keyboard, the other side next, and begins with what is worked on", async () => {
  const user = open();
  PUT.mockReturnValue(answer({}));
  await user.type(await screen.findByLabelText("gave, set 1"), "6{Enter}");
  await user.type(await screen.findByLabelText("gave, set 2"), "4");
  await user.type(screen.getByLabelText("tried, set 2"), "2x{Control>}{Enter}{/Control}");
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  const { sets, entered } = sent(0);
  expect(entered).toBe("afterwards");
  expect(sets?.map((s) => [s.rung, s.side, s.reps?.length])).toEqual([
    ["S4", "left", 6],
    ["S4", "right", 6],
  ]);
});

test("a rung that is counted otherwise asks for its own numbers", async () => {
  const user = open();
  PUT.mockReturnValue(answer({}));
  await user.selectOptions(await screen.findByLabelText("Rung and gait, set 1"), "T1");
  expect(screen.queryByLabelText("gave, set 1")).toBeNull();
  await user.type(screen.getByLabelText("steps, set 1"), "8");
  await user.selectOptions(screen.getByLabelText("How it ended, set 1"), "went wrong");
  await user.selectOptions(screen.getByLabelText("Fault, set 1"), "Crooked");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  const counted = { count: { kind: "steps", steps: 8, broke: true }, faults: ["crooked"] };
  expect(sent(0).sets?.map((s) => [s.rung, s.side, s.counted, s.reps])).toEqual([
    ["T1", "both", counted, undefined],
  ]);
});

test("fills the one ride that was planned, with its rider and place, unless someone says otherwise", async () => {
  const user = open([
    { id: "r1", starts_at: "07:45:00", rider_id: "p1", rider_name: "Ada", place: "round-pen" },
  ]);
  PUT.mockReturnValue(answer({}));
  expect(await screen.findByText("the ride planned for 07:45 with Ada")).toBeTruthy();
  await user.type(screen.getByLabelText("gave, set 1"), "6{Control>}{Enter}{/Control}");
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  expect([at(0), sent(0).rider_id, sent(0).place]).toEqual(["r1", "p1", "round-pen"]);
});

test("is a ride of its own with the last ride's rider and place where none was planned", async () => {
  const user = open();
  PUT.mockReturnValue(answer({}));
  await vi.waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>("Rider").value).toBe("p2"));
  await user.selectOptions(screen.getByLabelText("Place"), "The creek");
  await user.type(screen.getByLabelText("gave, set 1"), "6{Control>}{Enter}{/Control}");
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  expect([sent(0).rider_id, sent(0).place, sent(0).ground_id, at(0).length]).toEqual([
    "p2",
    "trail",
    "o1",
    36,
  ]);
});

test("takes what it wore last, minutes and signs along", async () => {
  const user = open();
  PUT.mockReturnValue(answer({}));
  await user.type(await screen.findByLabelText("gave, set 1"), "6");
  expect(await screen.findByRole("button", { name: "Snaffle", pressed: true })).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "Work saddle" }));
  await user.click(screen.getByRole("button", { name: "Licks" }));
  await user.type(screen.getByLabelText("walk"), "25");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  const { gear, signs, minutes } = sent(0);
  expect([gear, signs]).toEqual([["g1", "g2"], ["licks"]]);
  expect(minutes).toEqual({ stand: 0, walk: 25, jog: 0, lope: 0, run: 0 });
});

test("asks which ride it was where two were planned", async () => {
  const ride = (id: string, at: string) => ({
    id,
    starts_at: at,
    rider_id: "p1",
    rider_name: "Ada",
    place: "arena",
  });
  const user = open([ride("r1", "07:45:00"), ride("r2", "16:00:00")]);
  PUT.mockReturnValue(answer({}));
  await user.type(await screen.findByLabelText("gave, set 1"), "6{Control>}{Enter}{/Control}");
  expect(await screen.findByText(/More than one ride was planned/)).toBeTruthy();
  expect(PUT).not.toHaveBeenCalled();
  await user.selectOptions(screen.getByLabelText(/^This was/), "r2");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledOnce());
  expect(at(0)).toBe("r2");
});

test("sends the same ride again after an answer was lost", async () => {
  const user = open();
  PUT.mockRejectedValueOnce(new TypeError("network")).mockReturnValue(answer({}));
  await user.type(await screen.findByLabelText("gave, set 1"), "5");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await screen.findByRole("alert");
  expect(screen.getByLabelText<HTMLInputElement>("gave, set 1").value).toBe("5");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await vi.waitFor(() => expect(PUT).toHaveBeenCalledTimes(2));
  expect(sent(1)).toEqual(sent(0));
  expect(PUT.mock.calls[1]?.[1].params).toEqual(PUT.mock.calls[0]?.[1].params);
});

test("tells what is wrong under the line it is in, where lines above it are empty", async () => {
  const user = open();
  const errors = [{ field: "sets[0].reps[0].seconds", detail: "a rep takes at most an hour" }];
  PUT.mockReturnValue(refusal("Couldn't save", { errors }));
  await screen.findByLabelText("gave, set 1");
  await user.click(screen.getByRole("button", { name: "Another set" }));
  await user.type(screen.getByLabelText("gave, set 2"), "1");
  await user.type(screen.getByLabelText("Seconds, set 2"), "4000");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  const told = await screen.findByText("a rep takes at most an hour");
  const rows = within(screen.getByRole("table")).getAllByRole("row");
  expect(rows.findIndex((r) => r.contains(told))).toBe(3);
  expect(screen.getByLabelText<HTMLInputElement>("Seconds, set 2").value).toBe("4000");
});

test("does not send seconds that are no number", async () => {
  const user = open();
  await user.type(await screen.findByLabelText("gave, set 1"), "1");
  await user.type(screen.getByLabelText("Seconds, set 1"), "quick");
  await user.click(screen.getByRole("button", { name: "Save the ride" }));
  await screen.findByText("“quick” is not a number");
  expect(PUT).not.toHaveBeenCalled();
});
