// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around, refusal } from "../../tests/around";
import { CorrectRep } from "./correct-rep";

const server = vi.hoisted(() => ({ PATCH: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
beforeEach(() => void server.PATCH.mockReset().mockImplementation(() => answer({})));
afterEach(cleanup);

const book = {
  rungs: [{ id: "T2", answer: ["the feet have stopped", "it is off the bridle"] }],
  weights: [{ weight: "egg" }, { weight: "lemon" }],
} as unknown as Schemas["CurriculumOut"];
const rep = {
  id: "rep1",
  version: 3,
  outcome: "tried",
  missing: "second",
  weight: "egg",
  seconds: 1.4,
  faults: ["head-up"],
} as unknown as Schemas["RepOut"];

function opened(of: Partial<Schemas["RepOut"]> = {}) {
  const { client, wrapper, user } = around();
  client.setQueryData(["today"], {});
  const close = vi.fn();
  render(<CorrectRep horse="h1" rep={{ ...rep, ...of }} rung="T2" book={book} onClose={close} />, {
    wrapper,
  });
  const seconds = () => screen.getByLabelText<HTMLInputElement>(/Seconds/);
  return { client, user, close, seconds };
}
const sent = () => (server.PATCH.mock.lastCall?.[1] as { body: Record<string, unknown> }).body;

test("a rep opens as it was logged, and is sent with the version it was made from", async () => {
  const { client, user, close, seconds } = opened();
  expect(screen.getByLabelText("Outcome").textContent).toBe("Only: the feet have stopped");
  expect(seconds().value).toBe("1.4");
  await user.clear(seconds());
  await user.type(seconds(), "0,9");
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(sent()).toEqual({
    version: 3,
    outcome: "tried",
    missing: "second",
    weight: "egg",
    seconds: 0.9,
    faults: ["head-up"],
    removed: false,
  });
  expect(close).toHaveBeenCalled();
  expect(client.getQueryState(["today"])?.isInvalidated).toBe(true);
});

test("a time that is no number is told at its field, and the time that was measured is not lost", async () => {
  const { user, close, seconds } = opened();
  await user.clear(seconds());
  await user.type(seconds(), "about one");
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText("“about one” is not a number")).toBeDefined();
  expect(server.PATCH).not.toHaveBeenCalled();
  expect(seconds().value).toBe("about one");
  expect(close).not.toHaveBeenCalled();
});

test("a time that was not measured is empty, and stays so", async () => {
  const { user, seconds } = opened({ seconds: null });
  expect(seconds().value).toBe("");
  await user.click(screen.getByRole("button", { name: "Take it out" }));
  expect(sent()).toMatchObject({ seconds: null, removed: true });
});

test("a rep that someone else changed meanwhile is shown as it is now", async () => {
  server.PATCH.mockImplementation(() =>
    refusal("Someone changed this rep meanwhile", { type: "/problems/changed-meanwhile", status: 409 }),
  );
  const { client, user, close } = opened();
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect((await screen.findByRole("alert")).textContent).toContain("Someone changed this rep meanwhile");
  expect(close).not.toHaveBeenCalled();
  await user.click(screen.getByRole("button", { name: "Show it as it is now" }));
  expect(close).toHaveBeenCalled();
  expect(client.getQueryState(["today"])?.isInvalidated).toBe(true);
});
