// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { beforeEach, expect, test, vi } from "vitest";
import { usePlan, usePublish } from "./use-plan";
import { aRide, aWeek } from "./week.fixture";

const server = vi.hoisted(() => ({ POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
beforeEach(() => void server.POST.mockReset());

/** A response that comes in pieces, as a network cuts it. */
function answers(pieces: string[]) {
  const bytes = pieces.map((p) => new TextEncoder().encode(p));
  const data = new ReadableStream({
    pull: (to) => (bytes.length > 0 ? to.enqueue(bytes.shift()) : to.close()),
  });
  server.POST.mockResolvedValue({ data, response: { ok: true } });
}
const line = (rounds: number, score: number | null, rides = [aRide()]) =>
  `${JSON.stringify({ rounds, of: 10, score, rides, moved: [] })}\n`;

function planner() {
  const heard = { rides: vi.fn(), done: vi.fn() };
  return { heard, plan: renderHook(() => usePlan("2026-03-02", heard)).result };
}

test("what is found is shown as it comes, wherever the lines are cut, and in the end the week", async () => {
  const week = aWeek({ version: 4 });
  const end = JSON.stringify({ rounds: 10, of: 10, score: 44, rides: [], moved: ["Juniper: new"], week });
  const all = `${line(1, null)}${line(5, 30, [aRide(), aRide({ day: 4 })])}${end}\n`;
  const cut = [all.slice(0, 40), all.slice(40, 200), all.slice(200)];
  answers(cut);
  const { heard, plan } = planner();
  let done: boolean | undefined;
  await act(async () => void (done = await plan.current.run(3, "all")));
  expect(done).toBe(true);
  expect(heard.rides.mock.calls.map((c) => (c[0] as unknown[]).length)).toEqual([1, 2]);
  expect(heard.done).toHaveBeenCalledExactlyOnceWith(week);
  expect([plan.current.moved, plan.current.progress, plan.current.error]).toEqual([
    ["Juniper: new"],
    null,
    null,
  ]);
  act(() => plan.current.forget());
  expect(plan.current.moved).toBeNull();
});

test("a plan that the server gives up says why, and one that is cut off says what stands", async () => {
  const { heard, plan } = planner();
  const problem = { type: "/problems/changed", title: "No", status: 409, detail: "This week is over" };
  answers([line(1, 5), `${JSON.stringify({ rounds: 1, of: 10, rides: [], moved: [], problem })}\n`]);
  await act(async () => expect(await plan.current.run(3, "locked")).toBe(false));
  expect(plan.current.error?.message).toBe("This week is over");
  server.POST.mockResolvedValue({ error: problem, response: { ok: false } });
  await act(async () => expect(await plan.current.run(3, "locked")).toBe(false));
  expect(plan.current.error?.message).toBe("This week is over");
  server.POST.mockRejectedValue(new TypeError("network"));
  await act(async () => expect(await plan.current.run(3, "locked")).toBe(false));
  expect(plan.current.error?.message).toContain("The week is unchanged");
  expect([heard.done.mock.calls.length, plan.current.progress]).toEqual([0, null]);
});

test("a plan that is stopped is no trouble", async () => {
  const { plan } = planner();
  server.POST.mockImplementation(
    (_: string, { signal }: { signal: AbortSignal }) =>
      new Promise((_, fail) => signal.addEventListener("abort", () => fail(new DOMException("stopped")))),
  );
  let done: Promise<boolean> | undefined;
  act(() => void (done = plan.current.run(3, "locked")));
  await waitFor(() => expect(plan.current.progress).not.toBeNull());
  await act(async () => {
    plan.current.stop();
    expect(await done).toBe(false);
  });
  expect([plan.current.error, plan.current.progress]).toEqual([null, null]);
});

test("what is published is the version that was last kept, and everyone's week and day are told", async () => {
  const client = new QueryClient();
  client.setQueryData(["today"], { rides: [] });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const published = aWeek({ state: "published", version: 9 });
  server.POST.mockResolvedValue({ data: published, response: { ok: true } });
  const heard = vi.fn();
  const { result } = renderHook(() => usePublish("2026-03-02", () => Promise.resolve(8), heard), { wrapper });
  await act(async () => void (await result.current.mutateAsync()));
  expect(server.POST).toHaveBeenCalledWith("/api/weeks/{day}/publish", {
    params: { path: { day: "2026-03-02" } },
    body: { version: 8 },
  });
  expect(client.getQueryData(["week", "2026-03-02"])).toEqual(published);
  expect(client.getQueryState(["today"])?.isInvalidated).toBe(true);
  expect(heard).toHaveBeenCalledExactlyOnceWith(published);
});
