// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { answer, around, refusal } from "../tests/around";
import { Confirm } from "./confirm";

const server = vi.hoisted(() => ({ POST: vi.fn(), ask: (): Promise<boolean> => Promise.resolve(false) }));
vi.mock("../api/client", async (real) => ({
  ...(await real<object>()),
  api: server,
  whenToConfirm: (act: () => Promise<boolean>) => (server.ask = act),
}));
afterEach(cleanup);

const open = () => {
  const { wrapper, user } = around();
  render(<Confirm />, { wrapper });
  expect(screen.queryByRole("dialog")).toBeNull();
  return { user, given: server.ask() };
};

test("what was being saved goes on once the password was given, and a wrong one is told", async () => {
  const { user, given } = open();
  await user.type(await screen.findByLabelText("Password"), "not this one");
  server.POST.mockReturnValue(refusal("That is not your password", { status: 401 }));
  await user.click(screen.getByRole("button", { name: "Go on" }));
  await screen.findByText("That is not your password");
  server.POST.mockReturnValue(answer(undefined));
  await user.click(screen.getByRole("button", { name: "Go on" }));
  expect(await given).toBe(true);
  expect(server.POST.mock.calls.at(-1)?.[1]).toEqual({ body: { password: "not this one", code: null } });
});

test("a code is asked for where the account has one", async () => {
  const { user } = open();
  await user.type(await screen.findByLabelText("Password"), "long enough");
  server.POST.mockReturnValue(refusal("A code is needed", { type: "/problems/code-needed", status: 401 }));
  await user.click(screen.getByRole("button", { name: "Go on" }));
  await user.type(await screen.findByLabelText(/code/i), "123456");
  server.POST.mockReturnValue(answer(undefined));
  await user.click(screen.getByRole("button", { name: "Go on" }));
  expect(server.POST.mock.calls.at(-1)?.[1]).toEqual({ body: { password: "long enough", code: "123456" } });
});

test("cancelled, nothing goes on", async () => {
  const { user, given } = open();
  await user.click(await screen.findByRole("button", { name: "Cancel" }));
  expect(await given).toBe(false);
});
