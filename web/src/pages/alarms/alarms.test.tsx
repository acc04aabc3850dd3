// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { answer, around, refusal } from "../../tests/around";
import { AlarmsPage } from "./alarms";

const GET = vi.hoisted(() => vi.fn());
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: { GET } }));
afterEach(cleanup);

const alarm = (more: object) => ({
  horse_id: "h1",
  horse_name: "Juniper",
  alarm: {
    step: "S1",
    name: "Flexion",
    side: "left",
    since: "2026-03-02",
    ended: null,
    likely: 0.82,
    answered: "heeded",
    turned_out: "borne-out",
    reps: 20,
    met: 9,
    raised_by: ["patient", "steady", "go-ahead"],
    ...more,
  },
});
const counts = {
  from: "2026-01-01",
  horses: 12,
  posture: "steady",
  raised: 2,
  on_horses: 1,
  answers: [
    { answered: "not-yet", alarms: 0 },
    { answered: "heeded", alarms: 1 },
    { answered: "overruled", alarms: 0 },
    { answered: "rode-on", alarms: 1 },
  ],
  outcomes: [
    { turned_out: "open", alarms: 1 },
    { turned_out: "borne-out", alarms: 1 },
    { turned_out: "passed", alarms: 0 },
  ],
  by_posture: [
    { posture: "patient", sure_of_loss: 0.52, alarms: 2 },
    { posture: "steady", sure_of_loss: 0.66, alarms: 2 },
    { posture: "go-ahead", sure_of_loss: 0.72, alarms: 1 },
  ],
  offset: 0,
  more: false,
  items: [alarm({}), alarm({ step: null, name: null, since: "2026-02-01", answered: "rode-on" })],
};

function open(alarms: () => unknown) {
  GET.mockReset().mockImplementation(alarms);
  const { wrapper, user } = around();
  render(<AlarmsPage />, { wrapper });
  return user;
}

test("how many came, what was done and how they turned out, for each and together", async () => {
  open(() => answer(counts));
  const list = within(await screen.findByRole("list", { name: "Alarms, latest first" }));
  const [slip, pain] = list.getAllByRole("listitem").map((li) => li.textContent);
  expect(slip).toContain("Juniper: Flexion, left, 82% likely");
  expect(slip).toContain("HeededBorne out: 9 of 20 asks since met the standard");
  expect(pain).toContain("Juniper: possible pain, left");
  expect(pain).toContain("Ridden, nobody looked");
  const done = within(screen.getByRole("region", { name: "What was done" }));
  expect(done.getByText("heeded").textContent).toBe("1heeded");
  const sure = screen.getByRole("region", { name: "How sure" }).textContent;
  expect(sure).toContain("Steady, 66% likely: the barn’s2 alarms");
  expect(sure).toContain("Go-ahead, 72% likely1 alarm");
});

test("a barn without alarms says so, and one out of reach can be asked again", async () => {
  let fails = true;
  const none = { ...counts, raised: 0, on_horses: 0, items: [] };
  const user = open(() => (fails ? refusal("The barn is out of reach") : answer(none)));
  await screen.findByText("The barn is out of reach");
  fails = false;
  await user.click(screen.getByRole("button", { name: "Try again" }));
  await screen.findByText(/No alarm in ninety days/);
});
