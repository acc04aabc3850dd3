// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around } from "../../tests/around";
import { HorseForm } from "./horse-form";
import { PersonForm } from "./person-form";

const server = vi.hoisted(() => ({ PUT: vi.fn(), POST: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
beforeEach(() => void server.PUT.mockReset().mockImplementation(() => answer({ version: 2 })));
afterEach(cleanup);

const dell: Schemas["PersonOut"] = {
  id: "p1",
  name: "Dell Okafor",
  email: "dell@cedars.example",
  role: "assistant",
  archived: false,
  can_sign_in: true,
  version: 4,
};
const wren: Schemas["HorseOut"] = {
  id: "h1",
  name: "Wren",
  foaled: 2021,
  sex: "mare",
  note: "kind eye",
  traits: ["idle-mouth"],
  archived: false,
  usual_rider_id: "p1",
  version: 7,
};
const sent = () => server.PUT.mock.calls.map((c) => [c[0], (c[1] as { body: Record<string, unknown> }).body]);

test("a changed horse is sent whole, with the version it was made from", async () => {
  const { wrapper, user } = around();
  const close = vi.fn();
  render(<HorseForm horse={wren} people={[dell]} onClose={close} />, { wrapper });
  await user.type(screen.getByLabelText("Note"), ", hard mouth");
  expect(screen.getByRole("button", { name: "Idle mouth", pressed: true })).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "Squirms" }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(sent()).toEqual([
    [
      "/api/horses/{id}",
      {
        version: 7,
        name: "Wren",
        foaled: 2021,
        sex: "mare",
        owner_id: null,
        usual_rider_id: "p1",
        posture: null,
        traits: ["idle-mouth", "squirms"],
        note: "kind eye, hard mouth",
        archived: false,
      },
    ],
  ]);
  expect(close).toHaveBeenCalled();
});

test("a horse that is archived keeps what is typed, and one that is back in work too", async () => {
  const { wrapper, user } = around();
  render(<HorseForm horse={{ ...wren, archived: true }} people={[dell]} onClose={vi.fn()} />, { wrapper });
  await user.click(screen.getByRole("button", { name: "Restore" }));
  expect(sent()[0]?.[1]).toMatchObject({ archived: false, name: "Wren" });
});

test("a year that is no number is told at its field and nothing is sent", async () => {
  const { wrapper, user } = around();
  render(<HorseForm horse={null} people={[]} onClose={vi.fn()} />, { wrapper });
  await user.type(screen.getByLabelText("Name"), "Guest");
  await user.type(screen.getByLabelText("Year foaled"), "spring");
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText("“spring” is not a number")).toBeDefined();
  expect(server.PUT).not.toHaveBeenCalled();
  expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe("Guest");
});

test("a new horse that is sent again after a lost answer goes under the same id", async () => {
  const { wrapper, user } = around();
  render(<HorseForm horse={null} people={[]} onClose={vi.fn()} />, { wrapper });
  await user.type(screen.getByLabelText("Name"), "Guest");
  server.PUT.mockImplementationOnce(() => Promise.reject(new TypeError("no network")));
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect((await screen.findByRole("alert")).textContent).toContain("Couldn't reach the server");
  await user.click(screen.getByRole("button", { name: "Save" }));
  const ids = server.PUT.mock.calls.map((c) => (c[1] as { params: { path: { id: string } } }).params.path.id);
  expect(ids[0]).toBe(ids[1]);
});

test("a new person is saved, and then gets a link by which they set their password", async () => {
  const { wrapper, user } = around();
  const close = vi.fn();
  render(<PersonForm person={null} onClose={close} />, { wrapper });
  await user.type(screen.getByLabelText("Name"), "Wim Acker");
  await user.type(screen.getByLabelText("E-mail"), "wim@cedars.example");
  expect(screen.queryByRole("button", { name: /link/ })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Save" }));
  server.POST.mockImplementationOnce(() =>
    answer({ path: "/join#t0ken", expires_at: "2026-03-04T10:00:00Z" }),
  );
  await user.click(await screen.findByRole("button", { name: "Invite by link" }));
  expect((await screen.findByLabelText<HTMLInputElement>("Link")).value).toBe(
    `${window.location.origin}/join#t0ken`,
  );
  expect(close).not.toHaveBeenCalled();
});

test("who has a password gets a link that resets it, and an archived person none", () => {
  const { wrapper } = around();
  const { rerender } = render(<PersonForm person={dell} onClose={vi.fn()} />, { wrapper });
  expect(screen.getByRole("button", { name: "Reset the password by link" })).toBeDefined();
  rerender(<PersonForm person={{ ...dell, archived: true }} onClose={vi.fn()} />);
  expect(screen.queryByRole("button", { name: /link/ })).toBeNull();
});
