// @vitest-environment happy-dom
import { act, cleanup, render, renderHook, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { answer, aRideOfToday, around, refusal } from "../../tests/around";
import { Mended, useMend } from "./mended";
import { Missed, Unanswered, WhyNot } from "./not-ridden";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn(), POST: vi.fn(), DELETE: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
beforeEach(() => Object.values(server).forEach((call) => void call.mockReset()));
afterEach(cleanup);

test("why a ride was not ridden is one tap, and the day is loaded again", async () => {
  const { client, wrapper, user } = around();
  client.setQueryData(["today"], { rides: [] });
  const missed = aRideOfToday({ missed: "weather" });
  server.PUT.mockImplementation(() => answer(missed));
  const heard = vi.fn();
  render(<WhyNot ride={aRideOfToday()} onMissed={heard} />, { wrapper });
  const asks = screen.getByRole("group", { name: "Why was Juniper not ridden" });
  expect(within(asks).getAllByRole("button")).toHaveLength(6);
  await user.click(within(asks).getByRole("button", { name: "Weather" }));
  await waitFor(() => expect(heard).toHaveBeenCalledExactlyOnceWith(missed));
  expect(server.PUT).toHaveBeenCalledExactlyOnceWith("/api/rides/{id}/missed", {
    params: { path: { id: "r1" } },
    body: { why: "weather" },
  });
  expect(client.getQueryState(["today"])?.isInvalidated).toBe(true);
});

test("an answer that is not taken says why, and can be given again", async () => {
  const { wrapper, user } = around();
  server.PUT.mockImplementation(() => refusal("This ride was begun meanwhile", { status: 409 }));
  const heard = vi.fn();
  render(<WhyNot ride={aRideOfToday()} onMissed={heard} />, { wrapper });
  await user.click(screen.getByRole("button", { name: "No time" }));
  expect((await screen.findByRole("alert")).textContent).toBe("This ride was begun meanwhile");
  expect(heard).not.toHaveBeenCalled();
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "No time" }).disabled).toBe(false);
});

test("a ride that was not ridden says so with its reason, and is ridden after all", async () => {
  const { client, wrapper, user } = around();
  client.setQueryData(["today"], { rides: [] });
  server.DELETE.mockImplementation(() => Promise.reject(new TypeError("no network")));
  render(<Missed ride={aRideOfToday({ missed: "place" })} />, { wrapper });
  expect(screen.getByText("Not ridden: pen not fit")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Ride Juniper after all" }));
  expect(await screen.findByText("Couldn't undo: try again")).toBeDefined();
  server.DELETE.mockImplementation(() => answer(aRideOfToday()));
  await user.click(screen.getByRole("button", { name: "Ride Juniper after all" }));
  expect(await screen.findByText("Ride it after all")).toBeDefined();
  expect(client.getQueryState(["today"])?.isInvalidated).toBe(true);
});

test("rides of the last days that nobody logged are asked after, and none is silent", () => {
  const { wrapper } = around();
  const { rerender, container } = render(<Unanswered rides={[]} onMissed={vi.fn()} />, { wrapper });
  expect(container.textContent).toBe("");
  rerender(<Unanswered rides={[aRideOfToday()]} onMissed={vi.fn()} />);
  expect(screen.getByText("One planned ride was not logged")).toBeDefined();
  rerender(
    <Unanswered
      rides={[aRideOfToday(), aRideOfToday({ id: "r2", horse_name: "Biscuit" })]}
      onMissed={vi.fn()}
    />,
  );
  expect(screen.getByText("2 planned rides were not logged")).toBeDefined();
  expect(screen.getAllByText("Mon, Mar 2, Dell Okafor")).toHaveLength(2);
});

/** A plan that is made at once. */
function mends(moved: string[], state: string) {
  const end = { rounds: 1, of: 1, score: 9, rides: [], moved, week: { version: 5, state, rides: [] } };
  const data = new ReadableStream({
    start: (to) => {
      to.enqueue(new TextEncoder().encode(`${JSON.stringify(end)}\n`));
      to.close();
    },
  });
  server.POST.mockResolvedValueOnce({ data, response: { ok: true } });
}

test("a trainer's week is mended and published from Today; what moved is said", async () => {
  const { wrapper, user } = around();
  server.GET.mockImplementation(() => answer({ version: 4, rides: [] }));
  const Page = () => {
    const mending = useMend();
    return (
      <>
        <button onClick={() => void mending.mend()}>Mend</button>
        <Mended of={mending} />
      </>
    );
  };
  render(<Page />, { wrapper });
  expect(screen.queryByRole("status")).toBeNull();
  mends(["Juniper: Flexion: Monday 08:00, the arena, Dell Okafor is left out"], "draft");
  await user.click(screen.getByRole("button", { name: "Mend" }));
  expect(await screen.findByText("The week is mended: 1 moved")).toBeDefined();
  expect(screen.getByRole("listitem").textContent).toContain("Juniper: Flexion");
  expect((server.POST.mock.lastCall?.[1] as { body: unknown }).body).toEqual({ version: 4, keep: "all" });
  server.POST.mockResolvedValueOnce({
    data: { version: 6, state: "published", rides: [] },
    response: { ok: true },
  });
  await user.click(screen.getByRole("button", { name: "Publish" }));
  expect(await screen.findByText(/and everyone sees it/)).toBeDefined();
  expect((server.POST.mock.lastCall?.[1] as { body: unknown }).body).toEqual({ version: 5 });
  expect(screen.queryByRole("button", { name: "Publish" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Dismiss" }));
  expect(screen.queryByRole("status")).toBeNull();
});

test("a week that was not planned is not mended, nor by anyone but a trainer", async () => {
  const unplanned = around();
  server.GET.mockImplementation(() => answer({ version: 0, rides: [] }));
  const trainer = renderHook(() => useMend(), { wrapper: unplanned.wrapper });
  await act(() => trainer.result.current.mend());
  expect([server.GET.mock.calls.length, server.POST.mock.calls.length]).toEqual([1, 0]);
  const assistant = renderHook(() => useMend(), { wrapper: around("assistant").wrapper });
  await act(() => assistant.result.current.mend());
  expect([server.GET.mock.calls.length, server.POST.mock.calls.length]).toEqual([1, 0]);
});
