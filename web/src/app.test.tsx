// @vitest-environment happy-dom
import { act, cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { App } from "./app";
import { answer, around, refusal } from "./tests/around";

const server = vi.hoisted(() => ({ GET: vi.fn(), signedOut: (() => undefined) as () => void }));
vi.mock("./api/client", async (real) => ({
  ...(await real<object>()),
  api: server,
  whenSignedOut: (act: () => void) => (server.signedOut = act),
}));

const me = {
  id: "p1",
  name: "Dell Okafor",
  role: "trainer",
  today: "2026-03-02",
  csrf: "token",
  barn: { name: "Hollow Creek", units: "imperial", is_demo: false },
  barns: [],
};
const answers: Record<string, unknown> = {
  "/api/me": me,
  "/api/setup": { needs_first_trainer: false, demo: true },
  "/api/today": { date: "2026-03-02", rides: [], unanswered: [], calls: [], changes: [] },
  "/api/weather": { date: "2026-03-02", heat: null },
};

beforeEach(() => {
  localStorage.clear();
  server.GET.mockReset().mockImplementation((path: string) =>
    answer(answers[path] ?? { items: [], rides: [] }),
  );
});
afterEach(cleanup);

function open(at = "/") {
  const { wrapper, user } = around("trainer", at);
  render(<App />, { wrapper });
  return user;
}

test("whoever is not signed in finds the way in, and nothing of the barn", async () => {
  server.GET.mockImplementation((path: string) =>
    path === "/api/me" ? refusal("Sign in first", { status: 401 }) : answer(answers[path]),
  );
  open();
  await screen.findByText("This is the demo barn. Sign in as");
  expect(screen.queryByRole("navigation", { name: "Pages" })).toBeNull();
});

test("a session that runs out asks for a sign-in over the page as it stands", async () => {
  open();
  await screen.findByText("0 rides, 0 done");
  expect(screen.queryByRole("dialog")).toBeNull();
  act(() => server.signedOut());
  const dialog = await screen.findByRole("dialog", { name: "Signed out meanwhile" });
  expect(within(dialog).getByLabelText(/Password/)).toBeDefined();
  expect(screen.getByText("0 rides, 0 done")).toBeDefined();
});

test("a question mark lists what the keys do", async () => {
  const user = open();
  await screen.findByText("0 rides, 0 done");
  await user.keyboard("?");
  const list = await screen.findByRole("dialog", { name: "Shortcuts" });
  expect(within(list).getByText("walk along today's string")).toBeDefined();
});

test("an address that is no page says so", async () => {
  open("/nowhere");
  expect(await screen.findByText("There is no page at this address.")).toBeDefined();
});
