// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { beforeEach, expect, test, vi } from "vitest";
import { useWeek, type Ride, type Week } from "./use-week";
import { aRide, aWeek } from "./week.fixture";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn(), POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const answer = (data: unknown) => Promise.resolve({ data, response: { ok: true } });
const refusal = (type: string, detail: string) =>
  Promise.resolve({ error: { type, title: "No", status: 409, detail }, response: { ok: false } });
type Sent = { body: { version: number; rides: Ride[] } };

/** A server that keeps what it is sent, each time under the next version. */
let kept: Week;
const keep = (_: string, { body }: Sent) => {
  kept = { ...kept, version: body.version + 1, rides: body.rides };
  return answer(kept);
};
beforeEach(() => {
  kept = aWeek();
  server.GET.mockImplementation(() => answer(kept));
  server.PUT.mockReset().mockImplementation(keep);
  server.POST.mockReset();
});

async function opened() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const week = renderHook(() => useWeek("2026-03-02"), { wrapper });
  await waitFor(() => expect(week.result.current.query.data).toBeDefined());
  const rides = () => week.result.current.query.data?.rides;
  return { week, rides, edit: () => week.result.current };
}

test("a change is on the screen at once, kept under the version it was made from, and taken back", async () => {
  const { rides, edit } = await opened();
  const before = kept.rides;
  act(() => edit().change(before.map((r) => ({ ...r, locked: true }))));
  await waitFor(() => expect(rides()?.[0]?.locked).toBe(true));
  await waitFor(() => expect(kept.version).toBe(4));
  expect((server.PUT.mock.lastCall?.[1] as Sent).body.version).toBe(3);
  expect([edit().scoreBefore, edit().mayUndo]).toEqual([44, true]);
  act(() => edit().undo());
  await waitFor(() => expect(kept.version).toBe(5));
  expect(kept.rides).toEqual(before);
  expect(edit().mayUndo).toBe(false);
});

test("of changes made faster than they are kept only the first and the last are sent, in order", async () => {
  const { rides, edit } = await opened();
  const held: (() => void)[] = [];
  server.PUT.mockImplementation(
    (path: string, sent: Sent) => new Promise((done) => held.push(() => done(keep(path, sent)))),
  );
  const at = (start: string) => [aRide({ start })];
  for (const start of ["08:15", "08:30", "08:45", "09:00"]) act(() => edit().change(at(start)));
  await waitFor(() => expect(rides()).toEqual(at("09:00")));
  expect(server.PUT).toHaveBeenCalledTimes(1);
  await act(async () => held[0]?.());
  // What was kept is older than what is on the screen, which stays.
  await waitFor(() => expect(server.PUT).toHaveBeenCalledTimes(2));
  expect(rides()).toEqual(at("09:00"));
  await act(async () => held[1]?.());
  await waitFor(() => expect(kept.version).toBe(5));
  expect(kept.rides).toEqual(at("09:00"));
  expect(server.PUT.mock.calls.map((c) => (c[1] as Sent).body.version)).toEqual([3, 4]);
  expect(await edit().version()).toBe(5);
});

test("a week that someone else changed is told as that, and what was changed here is shown until it is let go", async () => {
  const { rides, edit } = await opened();
  server.PUT.mockImplementation(() => refusal("/problems/changed-meanwhile", "The week was changed"));
  act(() => edit().change([]));
  await waitFor(() => expect(edit().trouble?.changedMeanwhile).toBe(true));
  expect(rides()).toEqual([]);
  act(() => edit().again());
  await waitFor(() => expect(rides()).toHaveLength(2));
  expect(edit().trouble).toBeNull();
});

test("what the server refuses or never hears is not kept, and says why", async () => {
  const { edit } = await opened();
  server.PUT.mockImplementationOnce(() => refusal("/problems/fields", "A week has at most 1000 rides"));
  act(() => edit().change([aRide()]));
  await waitFor(() => expect(edit().trouble?.error.message).toBe("A week has at most 1000 rides"));
  server.PUT.mockImplementationOnce(() => Promise.reject(new TypeError("no network")));
  act(() => edit().change([aRide({ locked: true })]));
  await waitFor(() => expect(edit().trouble?.error.message).toContain("Couldn't reach the server"));
  // The next one that is kept clears it.
  act(() => edit().change([aRide({ day: 5 })]));
  await waitFor(() => expect(edit().trouble).toBeNull());
  expect(kept.rides).toEqual([aRide({ day: 5 })]);
});

test("a ride that is put in goes where the server says, and is kept beside the others", async () => {
  const { edit } = await opened();
  const made = aRide({ work: "juniper/T1", day: 3, start: "10:45", rider: "mara" });
  server.POST.mockImplementation(() => answer(made));
  let put: Ride | null = null;
  await act(async () => (put = await edit().add("juniper/T1", 3, { rider: "mara" })));
  expect(put).toEqual(made);
  expect(server.POST).toHaveBeenCalledWith("/api/weeks/{day}/room", {
    params: { path: { day: "2026-03-02" } },
    body: { rides: aWeek().rides, work: "juniper/T1", on: 3, rider: "mara" },
  });
  await waitFor(() => expect(kept.rides).toEqual([...aWeek().rides, made]));
  server.POST.mockImplementation(() =>
    refusal("/problems/fields", "nobody may ride it this week, or nowhere"),
  );
  await act(async () => (put = await edit().add("juniper/T1", 3, {})));
  expect(put).toBeNull();
  await waitFor(() => expect(edit().trouble?.error.message).toContain("nobody may ride it"));
});

test("of two rides put in at once the second finds its room beside the first", async () => {
  const { rides, edit } = await opened();
  const [first, second] = [aRide({ day: 3, start: "10:00" }), aRide({ day: 3, start: "10:45" })];
  server.POST.mockImplementationOnce(() => answer(first)).mockImplementationOnce(() => answer(second));
  let put: (Ride | null)[] = [];
  await act(async () => {
    put = await Promise.all([edit().add("juniper/S1", 3, {}), edit().add("juniper/S1", 3, {})]);
  });
  expect(put).toEqual([first, second]);
  expect((server.POST.mock.lastCall?.[1] as Sent).body.rides).toEqual([...aWeek().rides, first]);
  expect(rides()).toEqual([...aWeek().rides, first, second]);
});

test("a plan can be taken back to what stood before it began", async () => {
  const { rides, edit } = await opened();
  const before = aWeek().rides;
  act(() => edit().begin());
  act(() => edit().preview([aRide({ start: "07:00" })]));
  await waitFor(() => expect(rides()).toHaveLength(1));
  const planned = aWeek({ version: 8, rides: [aRide({ start: "07:00" }), aRide({ day: 5 })] });
  act(() => edit().planned(planned));
  await waitFor(() => expect(rides()).toHaveLength(2));
  expect(edit().scoreBefore).toBe(44);
  kept = planned;
  act(() => edit().undo());
  await waitFor(() => expect(kept).toMatchObject({ version: 9, rides: before }));
});
