// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { AppointmentForm, type Appointment } from "./appointment-form";
import { CalendarIn } from "./calendar-in";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn(), POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const answer = (data: unknown) => Promise.resolve({ data, response: { ok: true } });
const known: Record<string, unknown> = {
  "/api/horses": {
    items: [
      { id: "h1", name: "Juniper" },
      { id: "h2", name: "Biscuit" },
    ],
  },
  "/api/people": { items: [{ id: "p1", name: "Dell Okafor" }] },
  "/api/curriculum": {
    steps: [
      { id: "S1", rung: "S1", name: "Flexion", gait: "stand" },
      { id: "T3@jog", rung: "T3", name: "Stop at the jog", gait: "jog" },
    ],
  },
};
beforeEach(() => {
  server.GET.mockImplementation((path: string) => answer(known[path]));
  server.PUT.mockReset().mockImplementation(() => answer({}));
  server.POST.mockReset();
});
afterEach(cleanup);

const visit: Appointment = {
  id: "a1",
  version: 4,
  kind: "farrier",
  title: "Farrier, the front half",
  day: "2026-03-04",
  days: 1,
  from: "09:00",
  to: "11:00",
  rule: "FREQ=WEEKLY;INTERVAL=6",
  skipped: ["2026-04-15"],
  wants: [],
  people: [],
  horses: ["h1"],
  comes: ["2026-03-04"],
  outlook: [],
};

function withServer(what: React.ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(<QueryClientProvider client={client}>{what}</QueryClientProvider>);
}
function form(of: Appointment | null) {
  const [onSaved, onClose] = [vi.fn(), vi.fn()];
  withServer(<AppointmentForm of={of} today="2026-03-02" onSaved={onSaved} onClose={onClose} />);
  return { user: userEvent.setup({ delay: null }), onSaved, onClose };
}
const sent = () => (server.PUT.mock.lastCall?.[1] as { body: Record<string, unknown> }).body;
const choose = async (user: ReturnType<typeof userEvent.setup>, field: string, option: RegExp | string) => {
  await user.click(screen.getByRole("combobox", { name: field }));
  await user.click(await screen.findByRole("option", { name: option }));
};

test("what is changed is sent with the version it was made from, and all else as it stood", async () => {
  const { user, onSaved } = form(visit);
  const title = screen.getByLabelText("In a few words");
  await user.clear(title);
  await user.type(title, "Farrier, all four");
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(onSaved).toHaveBeenCalledOnce());
  // All of it but what the server works out of it.
  const told = ["id", "comes", "outlook"];
  const asItStood = Object.fromEntries(Object.entries(visit).filter(([name]) => !told.includes(name)));
  expect(sent()).toEqual({ ...asItStood, title: "Farrier, all four" });
});

test("a show takes whole days and asks for steps; what asks for none asks for none any more", async () => {
  const { user, onSaved } = form(null);
  await choose(user, "What", "Show");
  await user.type(screen.getByLabelText("In a few words"), "Valley show");
  const days = screen.getByLabelText("Days in a row");
  await user.clear(days);
  await user.type(days, "3");
  await choose(user, "Horses", "Biscuit");
  await choose(user, "What the show asks of them", /^T3 Stop at the jog/);
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(onSaved).toHaveBeenCalledOnce());
  expect(sent()).toMatchObject({
    version: 0,
    kind: "show",
    days: 3,
    from: "00:00",
    to: "24:00",
    rule: null,
    wants: ["T3@jog"],
    horses: ["h2"],
  });
  await choose(user, "What", "Vet");
  expect(screen.queryByLabelText("Days in a row")).toBeNull();
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(onSaved).toHaveBeenCalledTimes(2));
  expect(sent()).toMatchObject({ kind: "vet", days: 1, from: "09:00", to: "11:00", wants: [] });
});

test("what the server says stands at its field, and what was typed stays", async () => {
  const { user, onSaved } = form(visit);
  const problem = {
    type: "/problems/fields",
    title: "Not as it should be",
    status: 422,
    detail: "Check the marked fields",
    errors: [
      { field: "to", detail: "09:00 is not after 11:00: it ends before it starts" },
      { field: "horses", detail: "say which horses or whom it takes" },
    ],
  };
  server.PUT.mockImplementation(() => Promise.resolve({ error: problem, response: { ok: false } }));
  const from = screen.getByLabelText("From");
  await user.clear(from);
  await user.type(from, "half nine");
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText(/it ends before it starts/)).toBeDefined();
  expect(screen.getByText("say which horses or whom it takes")).toBeDefined();
  expect((from as HTMLInputElement).value).toBe("half nine");
  expect(onSaved).not.toHaveBeenCalled();
});

test("a calendar is looked at entry by entry first, and comes in whole when it is taken", async () => {
  const line = { days: 1, horses: [], people: [], says: [], title: "", fate: "new" };
  const lines = [
    {
      ...line,
      title: "Farrier for Juniper",
      kind: "farrier",
      day: "2026-03-04",
      from: "09:00",
      to: "11:00",
      horses: ["Juniper"],
    },
    {
      ...line,
      title: "Lunch",
      fate: "nobody",
      says: ["it names no horse and nobody of the barn: it is not taken"],
    },
    {
      ...line,
      title: "Teeth",
      fate: "known",
      kind: "dentist",
      day: "2026-03-05",
      from: "00:00",
      to: "24:00",
    },
    { ...line, fate: "refused", says: ["it has no beginning"] },
  ];
  server.POST.mockImplementation(() => answer({ lines, added: 1 }));
  withServer(<CalendarIn />);
  const user = userEvent.setup({ delay: null });
  const file = new File(["BEGIN:VCALENDAR"], "barn.ics", { type: "text/calendar" });
  await user.upload(document.querySelector("input[type=file]") as HTMLInputElement, file);
  const look = await screen.findByRole("region", { name: "What would come in" });
  expect(within(look).getByRole("heading").textContent).toBe("1 of 4 would come in");
  const rows = within(look)
    .getAllByRole("listitem")
    .map((row) => row.textContent);
  expect(rows[0]).toBe("Comes in: Farrier for Juniper (farrier)Wed, Mar 4, 09:00 to 11:00: Juniper");
  expect(rows[1]).toContain("Takes nobody: Lunch");
  expect(rows[2]).toContain("In already: Teeth (dentist)Thu, Mar 5");
  expect(rows[3]).toBe("Cannot be taken: without a nameit has no beginning");
  expect(server.POST.mock.calls.map((c) => (c[1] as { body: unknown }).body)).toEqual([
    { text: "BEGIN:VCALENDAR", dry_run: true },
  ]);
  await user.click(within(look).getByRole("button", { name: "Take them in" }));
  expect((await screen.findByRole("status")).textContent).toBe("1 imported.");
  expect((server.POST.mock.lastCall?.[1] as { body: unknown }).body).toEqual({
    text: "BEGIN:VCALENDAR",
    dry_run: false,
  });
});

test("a calendar that cannot be read says so, and one that is left changes nothing", async () => {
  const problem = { type: "/problems/fields", title: "No", status: 422, detail: "This is no calendar" };
  server.POST.mockImplementation(() => Promise.resolve({ error: problem, response: { ok: false } }));
  withServer(<CalendarIn />);
  const user = userEvent.setup({ delay: null });
  const upload = async () =>
    user.upload(
      document.querySelector("input[type=file]") as HTMLInputElement,
      new File(["x"], "x.ics", { type: "text/calendar" }),
    );
  await upload();
  expect((await screen.findByRole("alert")).textContent).toBe("This is no calendar");
  server.POST.mockImplementation(() => answer({ lines: [], added: 0 }));
  await upload();
  await screen.findByRole("region", { name: "What would come in" });
  expect(screen.queryByRole("button", { name: "Take them in" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Cancel" }));
  expect(screen.queryByRole("region", { name: "What would come in" })).toBeNull();
  expect(server.POST).toHaveBeenCalledTimes(2);
});
