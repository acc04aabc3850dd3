// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { answer, around, refusal } from "../../tests/around";
import { TodayHeat } from "./today-heat";

const { GET, PUT } = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: { GET, PUT } }));
afterEach(cleanup);

const hot: Schemas["HeatOut"] = {
  celsius: 35,
  fahrenheit: 95,
  humidity: 90,
  thi: 94,
  sum: 185,
  band: "no-hard-work",
  says: "No hard work",
  typed: true,
};

function open(heat: Schemas["HeatOut"] | null, role?: Schemas["Role"]) {
  GET.mockReset().mockReturnValue(answer({ date: "2026-03-02", heat }));
  PUT.mockReset();
  const { wrapper, user } = around(role);
  render(<TodayHeat />, { wrapper });
  return user;
}

test("the air is typed in as the barn's thermometer shows it, and the answer stands at once", async () => {
  const user = open(null);
  await screen.findByText(/No temperature entered/);
  await user.click(screen.getByRole("button", { name: "Enter the weather" }));
  await user.type(await screen.findByLabelText("°F"), "95");
  await user.type(screen.getByLabelText("Humidity %"), "90");
  PUT.mockReturnValue(answer({ date: "2026-03-02", heat: hot }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  await screen.findByText("95 °F, 90% humidity: no hard work");
  expect(PUT.mock.calls[0]?.[1].body).toEqual({ degrees: 95, scale: "fahrenheit", humidity: 90 });
  expect(screen.queryByLabelText("°F")).toBeNull();
});

test("what is refused is told at its field and stays there", async () => {
  const user = open(null);
  await user.click(await screen.findByRole("button", { name: "Enter the weather" }));
  await user.type(await screen.findByLabelText("°F"), "hot");
  await user.type(screen.getByLabelText("Humidity %"), "120");
  await user.click(screen.getByRole("button", { name: "Save" }));
  await screen.findByText("“hot” is not a number");
  expect(PUT).not.toHaveBeenCalled();

  await user.clear(screen.getByLabelText("°F"));
  await user.type(screen.getByLabelText("°F"), "95");
  const detail = "120% is no relative humidity";
  PUT.mockReturnValue(refusal(detail, { errors: [{ field: "humidity", detail }] }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  await screen.findByText(detail);
  expect(screen.getByLabelText<HTMLInputElement>("Humidity %").value).toBe("120");
});

test("an owner reads it only", async () => {
  open(hot, "owner");
  await screen.findByText(/no hard work/);
  expect(screen.queryByRole("button", { name: "Enter the weather" })).toBeNull();
});
