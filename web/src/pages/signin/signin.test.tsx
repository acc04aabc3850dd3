// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { answer, around, refusal } from "../../tests/around";
import { SignIn } from "./signin";

const server = vi.hoisted(() => ({ GET: vi.fn(), POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
const setup = { demo: false, needs_first_trainer: false };
beforeEach(() => {
  Object.values(server).forEach((call) => void call.mockReset());
  server.GET.mockImplementation(() => answer(setup));
  server.POST.mockImplementation(() => answer({}));
});
afterEach(cleanup);

function opened(unreachable: string | null = null) {
  const { client, wrapper, user } = around();
  client.setQueryData(["me"], null);
  render(<SignIn unreachable={unreachable} />, { wrapper });
  const isIn = () => client.getQueryState(["me"])?.isInvalidated ?? false;
  return { user, isIn };
}

test("a wrong password says so, keeps what was typed, and the right one goes in", async () => {
  const { user, isIn } = opened();
  await user.type(await screen.findByLabelText(/E-mail/), "ada@low.example");
  await user.type(screen.getByLabelText(/Password/), "a guess");
  server.POST.mockImplementationOnce(() => refusal("E-mail or password is wrong", { status: 401 }));
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  expect((await screen.findByRole("alert")).textContent).toBe("E-mail or password is wrong");
  expect(screen.getByLabelText<HTMLInputElement>(/E-mail/).value).toBe("ada@low.example");
  expect(isIn()).toBe(false);
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  expect(isIn()).toBe(true);
  expect(server.POST).toHaveBeenLastCalledWith("/api/sign-in", {
    body: { email: "ada@low.example", password: "a guess", code: null, barn_phone: false },
  });
});

test("an account with codes is asked for one, on the barn's phone too", async () => {
  const { user, isIn } = opened();
  await user.type(await screen.findByLabelText(/E-mail/), "ada@low.example");
  await user.type(screen.getByLabelText(/Password/), "right");
  await user.click(screen.getByRole("checkbox", { name: /barn's phone/ }));
  server.POST.mockImplementationOnce(() =>
    refusal("Type the six digits", { type: "/problems/code-needed", status: 401 }),
  );
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  await user.type(await screen.findByLabelText("Code from the app"), "123456");
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  expect(isIn()).toBe(true);
  expect(server.POST).toHaveBeenLastCalledWith("/api/sign-in", {
    body: { email: "ada@low.example", password: "right", code: "123456", barn_phone: true },
  });
});

test("a real barn has no buttons of the demo, and the demo has one for each of its people", async () => {
  opened();
  await screen.findByRole("button", { name: "Sign in" });
  expect(screen.queryByRole("button", { name: "Trainer" })).toBeNull();
  cleanup();
  server.GET.mockImplementation(() => answer({ ...setup, demo: true }));
  const { user, isIn } = opened();
  await user.click(await screen.findByRole("button", { name: "Owner, reads only" }));
  expect(server.POST).toHaveBeenLastCalledWith("/api/demo-sign-in", { body: { role: "owner" } });
  expect(isIn()).toBe(true);
});

test("an empty installation asks for its first trainer, and says at each field what is wrong", async () => {
  server.GET.mockImplementation(() => answer({ ...setup, needs_first_trainer: true }));
  const { user, isIn } = opened();
  await user.type(await screen.findByLabelText("Name of the barn"), "Low Meadow");
  server.POST.mockImplementationOnce(() =>
    refusal("Couldn't save", {
      errors: [
        { field: "name", detail: "this cannot be empty" },
        { field: "password", detail: "a password has 12 to 128 characters" },
      ],
    }),
  );
  await user.click(screen.getByRole("button", { name: "Open the barn" }));
  expect(await screen.findByText("this cannot be empty")).toBeDefined();
  expect(screen.getByText("a password has 12 to 128 characters")).toBeDefined();
  expect(screen.getByLabelText<HTMLInputElement>("Name of the barn").value).toBe("Low Meadow");
  expect(isIn()).toBe(false);
});

test("a barn that does not answer says so, and is asked again", async () => {
  const { user, isIn } = opened("Couldn't reach the server");
  expect((await screen.findByRole("alert")).textContent).toContain("Couldn't reach the server");
  await user.click(screen.getByRole("button", { name: /again/i }));
  expect(isIn()).toBe(true);
});
