// @vitest-environment happy-dom
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around, refusal } from "../../tests/around";
import { Shorthand } from "./shorthand";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn(), POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

type Sent = { body: Schemas["ShorthandRequest"] };
const sent = () => server.POST.mock.calls.map((c) => (c[1] as Sent).body);
const stored = () => sent().filter((b) => !b.dry_run);

const read = (more: Partial<Schemas["ShorthandResponse"]> = {}): Schemas["ShorthandResponse"] => ({
  rides: [
    {
      line: 1,
      date: "2026-03-02",
      horse: "Juniper",
      horse_id: "h1",
      note: "left first",
      told: "Mara Quill, Round pen",
      signs: ["licks"],
      sets: [{ side: "left", says: "Flexion, left: 6 of 8, an egg", shorthand: "S1 L 6/8 egg" }],
    },
  ],
  words: [],
  diagnostics: [],
  stored: false,
  ...more,
});
const trouble = { line: 1, from: 10, to: 13, says: '"flxe" is no rung', nearest: "flex" };

beforeEach(() => {
  Object.values(server).forEach((call) => void call.mockReset());
  const lists: Record<string, unknown> = {
    "/api/horses": { items: [{ id: "h1", name: "Juniper" }], more: false },
    "/api/aliases": { items: [] },
    "/api/curriculum": { rungs: [] },
  };
  server.GET.mockImplementation((path: string) => answer(lists[path]));
  server.POST.mockImplementation((_: string, { body }: Sent) => answer(read({ stored: !body.dry_run })));
});
afterEach(cleanup);

function page() {
  const { wrapper, user } = around();
  render(<Shorthand />, { wrapper });
  return { user, box: screen.getByRole<HTMLTextAreaElement>("textbox", { name: "The text" }) };
}

test("a line is read as it is typed, and stored once it is understood", async () => {
  const { user, box } = page();
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
  await user.type(box, "Juniper: flex L 6/8 egg");
  const store = await screen.findByRole("button", { name: "Save 1 ride, 1 set" });
  expect(stored()).toEqual([]);
  expect(screen.getByText("Flexion, left: 6 of 8, an egg")).toBeDefined();
  await user.click(store);
  expect(await screen.findByText("Saved: 1 ride.")).toBeDefined();
  expect(stored()).toEqual([
    expect.objectContaining({
      text: "Juniper: flex L 6/8 egg",
      form: "shorthand",
      date: "2026-03-02",
      horse_id: null,
    }),
  ]);
  expect(box.value).toBe("");
});

test("while a word is not understood nothing is stored; the nearest word is taken with one tap", async () => {
  server.POST.mockImplementation(() => answer(read({ diagnostics: [trouble] })));
  const { user, box } = page();
  await user.type(box, "Juniper: flxe L 6/8");
  const wrong = await screen.findByRole("list", { name: "Not understood" });
  expect(wrong.textContent).toContain('Line 1, column 10: "flxe" is no rung.');
  expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Save/ }).disabled).toBe(true);
  await user.click(within(wrong).getByRole("button", { name: "Use “flex”" }));
  expect(box.value).toBe("Juniper: flex L 6/8");
});

test("what is refused stays on the page, with the reason", async () => {
  const { user, box } = page();
  await user.type(box, "Juniper: flex L 6/8");
  await screen.findByRole("button", { name: /^Save 1/ });
  server.POST.mockImplementation((_: string, { body }: Sent) =>
    body.dry_run ? answer(read()) : refusal("A ride cannot be in the future"),
  );
  await user.keyboard("{Control>}{Enter}{/Control}");
  expect((await screen.findByRole("alert")).textContent).toBe("A ride cannot be in the future");
  expect(box.value).toBe("Juniper: flex L 6/8");
});

test("the same text sent twice goes under one id, and the next text under another", async () => {
  const { user, box } = page();
  await user.type(box, "Juniper: flex L 6/8");
  await screen.findByRole("button", { name: /^Save 1/ });
  server.POST.mockImplementationOnce(() => Promise.reject(new TypeError("no network")));
  await user.click(screen.getByRole("button", { name: /^Save 1/ }));
  await screen.findByRole("alert");
  await user.click(screen.getByRole("button", { name: /^Save 1/ }));
  await waitFor(() => expect(box.value).toBe(""));
  await user.type(box, "Juniper: hip L 2/8");
  await user.click(await screen.findByRole("button", { name: /^Save 1/ }));
  await waitFor(() => expect(stored()).toHaveLength(3));
  const [first, again, next] = stored().map((b) => b.id);
  expect(first).toBe(again);
  expect(next).not.toBe(first);
});

test("what is typed while the last text is being stored is not lost", async () => {
  const { user, box } = page();
  await user.type(box, "Juniper: flex L 6/8");
  await screen.findByRole("button", { name: /^Save 1/ });
  let done: (value: unknown) => void = () => undefined;
  server.POST.mockImplementation((_: string, { body }: Sent) =>
    body.dry_run ? answer(read()) : new Promise((to) => (done = to)),
  );
  await user.click(screen.getByRole("button", { name: /^Save 1/ }));
  await user.type(box, " egg");
  done({ data: read({ stored: true }), response: { ok: true } });
  await waitFor(() =>
    expect(server.GET.mock.calls.filter((c) => c[0] === "/api/horses").length).toBeGreaterThan(1),
  );
  expect(box.value).toBe("Juniper: flex L 6/8 egg");
});

test("a file of rows is opened as rows", async () => {
  const { user, box } = page();
  const file = new File(["horse,date\nJuniper,2026-03-01"], "week.csv", { type: "text/csv" });
  await user.upload(screen.getByLabelText("Choose a file"), file);
  await waitFor(() => expect(box.value).toContain("Juniper,2026-03-01"));
  expect(screen.getByRole("button", { pressed: true }).textContent).toBe("Rows (CSV)");
  await waitFor(() => expect(sent().at(-1)).toMatchObject({ form: "csv", dry_run: true }));
});
