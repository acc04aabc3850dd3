// @vitest-environment happy-dom
import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { answer, around, refusal } from "../../tests/around";
import { HoursForm } from "./hours-form";
import { aWeek } from "./week.fixture";

const server = vi.hoisted(() => ({ GET: vi.fn(), PUT: vi.fn() }));
vi.mock("../../api/client", async (real) => ({ ...(await real<object>()), api: server }));
const hours = [
  { weekday: 0, from: "07:00", to: "12:00" },
  { weekday: 0, from: "14:00", to: "17:00" },
];
beforeEach(() => {
  Object.values(server).forEach((call) => void call.mockReset());
  server.GET.mockImplementation(() =>
    answer({
      people: [{ person_id: "dell", hours }],
      places: [{ place: "arena", at_once: 2, from: "06:00", to: "20:00" }],
      agreed: [{ horse_id: "juniper", least: 4, most: 5 }],
      cattle: [0, 0, 12, 0, 0, 0, 0],
    }),
  );
  server.PUT.mockImplementation(() => answer({}));
});
afterEach(cleanup);

async function opened() {
  const { wrapper, user } = around();
  render(<HoursForm week={aWeek()} onClose={vi.fn()} />, { wrapper });
  const line = (name: string) => within(screen.getByRole("form", { name }));
  await screen.findByRole("form", { name: "Juniper" });
  const type = async (name: string, label: string, text: string) => {
    await user.clear(line(name).getByLabelText(label));
    if (text) await user.type(line(name).getByLabelText(label), text);
    await user.click(line(name).getByRole("button", { name: "Save" }));
  };
  return { line, type };
}
const sent = () => server.PUT.mock.lastCall?.[1] as { body: unknown };

test("hours are shown by the day, and a change to one day keeps the others", async () => {
  const { line, type } = await opened();
  expect(line("Dell Okafor").getByLabelText<HTMLInputElement>("Mon").value).toBe("07:00-12:00, 14:00-17:00");
  expect(line("Mara Quill").getByLabelText<HTMLInputElement>("Mon").value).toBe("");
  await type("Dell Okafor", "Tue", "8-10");
  expect(sent().body).toEqual({ hours: [...hours, { weekday: 1, from: "08:00", to: "10:00" }] });
  expect(await line("Dell Okafor").findByText("Saved")).toBeDefined();
});

test("an agreement that is no number is told, and what was agreed on stands", async () => {
  const { line, type } = await opened();
  await type("Juniper", "At least", "four");
  expect((await line("Juniper").findByRole("alert")).textContent).toBe("“four” is not a number");
  expect(line("Juniper").getByLabelText<HTMLInputElement>("At least").value).toBe("four");
  expect(server.PUT).not.toHaveBeenCalled();
  await type("Juniper", "At least", "3");
  expect(sent().body).toEqual({ least: 3, most: 5 });
});

test("an agreement is given up by leaving it empty", async () => {
  const { type } = await opened();
  await type("Juniper", "At least", "");
  expect(sent().body).toEqual({ least: null, most: 5 });
});

test("places and cattle are counted in numbers, and a refusal stands under its line", async () => {
  const { line, type } = await opened();
  expect(line("Works").getByLabelText<HTMLInputElement>("Wed").value).toBe("12");
  await type("Works", "Thu", "6");
  expect(sent().body).toEqual({ works: [0, 0, 12, 6, 0, 0, 0] });
  server.PUT.mockImplementation(() =>
    refusal("Couldn't save", { errors: [{ field: "at_once", detail: "0 to 20 rides at a time" }] }),
  );
  await type("Arena", "At a time", "99");
  expect((await line("Arena").findByRole("alert")).textContent).toBe("0 to 20 rides at a time");
  expect(sent().body).toEqual({ at_once: 99, from: "06:00", to: "20:00" });
});
