// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around, aRideOfToday, refusal } from "../../tests/around";
import { Rides } from "./rides";

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));

const book = { steps: [], weights: [], faults: [] } as unknown as Schemas["CurriculumOut"];
/** Twenty rides, the latest first: each as the ground it was on. */
const all = Array.from({ length: 20 }, (_, n) => ({
  ...aRideOfToday({ id: `r${n}`, ground_name: `Ground ${n}` }),
  sets: [],
}));

/** A page as the server gives it: what comes after a ride, so many at a time. */
function pageOf({ after, limit }: { after?: string; limit: number }) {
  const from = after ? all.findIndex((r) => r.id === after) + 1 : 0;
  return { items: all.slice(from, from + limit), limit, more: from + limit < all.length };
}

beforeEach(() => {
  server.GET.mockImplementation((path: string, { params }: { params: { query: never } }) =>
    answer(path.endsWith("/rides") ? pageOf(params.query) : { items: [] }),
  );
});
afterEach(cleanup);

const open = () => {
  const { wrapper, user } = around();
  render(<Rides horse="h1" book={book} mayCorrect />, { wrapper });
  return user;
};
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });
const listed = () =>
  within(screen.getAllByRole("list")[0] as HTMLElement)
    .getAllByRole("listitem")
    .map((item) => /Ground (\d+)/i.exec(item.textContent ?? "")?.[1]);
const numbers = (from: number, to: number) => Array.from({ length: to - from }, (_, n) => `${from + n}`);

test("older rides come a page at a time, each ride once, and newer ones go back the same way", async () => {
  const user = open();
  await screen.findByText(/Ground 7/);
  expect(listed()).toEqual(numbers(0, 8));
  expect(button("Newer").disabled).toBe(true);

  await user.click(button("Older"));
  await screen.findByText(/Ground 15/);
  expect(listed()).toEqual(numbers(8, 16));
  await user.click(button("Older"));
  await screen.findByText(/Ground 19/);
  expect(listed()).toEqual(numbers(16, 20));
  expect(button("Older").disabled).toBe(true);

  await user.click(button("Newer"));
  await screen.findByText(/Ground 8/);
  await user.click(button("Newer"));
  await screen.findByText(/Ground 0/);
  expect(listed()).toEqual(numbers(0, 8));
});

test("a page that does not come is told, with a way to ask again", async () => {
  server.GET.mockReturnValue(refusal("The barn is not answering"));
  const user = open();
  await screen.findByText("Couldn't load the rides");
  server.GET.mockImplementation((path: string) =>
    answer(path.endsWith("/rides") ? { items: [], limit: 8, more: false } : { items: [] }),
  );
  await user.click(button("Try again"));
  await screen.findByText("No rides yet.");
});
