// Figures: a text is typed, broken and mended; a mark is dragged and the text follows; a figure is kept, mirrored and played.
import { expect, test } from "@playwright/test";
import { send, walkIn } from "./barn.mjs";

const field = (page) =>
  page.getByRole("textbox", { name: "Text of the figure" });
const faults = (page) => page.locator("#figure-faults");

/** A pen of its own, with a new figure open in it. */
async function openFigure(page) {
  const id = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/grounds/${id}`, {
    name: `Figures ${Date.now()}`,
    place: "arena",
    surface: "sand",
    length: 60,
    width: 40,
  });
  expect(made.status()).toBe(201);
  await page.goto(`/patterns?view=figures&figure=new&ground=${id}`);
  await expect(field(page)).toBeVisible();
}

test("a figure is typed, broken, mended and kept", async ({ page }) => {
  await walkIn(page, "Trainer");
  await openFigure(page);
  await field(page).fill("start 60 60 heading 0\njog\ncircle lft 25\nhalt\n");
  await expect(faults(page)).toContainText("Here comes left or right.");
  await expect(faults(page).getByRole("button")).toHaveText([
    "Line 3",
    "Line 4",
  ]);
  // The fault leads to its place in the text.
  await faults(page).getByRole("button", { name: "Line 3" }).click();
  expect(await field(page).evaluate((it) => it.selectionStart)).toBe(33);
  await field(page).fill(
    "start 60 60 heading 0\nJOG\ncircle left 25ft\nstop\n",
  );
  await expect(faults(page)).toBeEmpty();
  await expect(
    page.getByText("157 ft, 17 s, ends where it began"),
  ).toBeVisible();
  await expect(
    page.getByRole("heading", { name: "It fits and hangs together" }),
  ).toBeVisible();
  await expect(
    page.getByRole("row", { name: /Stop at the jog.*Line 4/ }),
  ).toBeVisible();

  await page.getByRole("button", { name: "Tidy" }).click();
  await expect(field(page)).toHaveValue(
    "start 60 60 heading 0 deg\njog\ncircle left 25\nstop\n",
  );
  await page.getByRole("button", { name: "Mirror (M)" }).click();
  await expect(field(page)).toHaveValue(
    "start -60 60 heading 0 deg\njog\ncircle right 25\nstop\n",
  );
  await expect(page.getByText(/It leaves the pen: \d+ ft/)).toBeVisible();
  const name = `Circle ${Date.now()}`;
  await page.getByLabel("Name").fill(name);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("combobox", { name: "Figure" })).toHaveText(name);
  await page.reload();
  await expect(field(page)).toHaveValue(/circle right 25/);
});

test("a mark is dragged and moved by keys, and the text follows; the figure is played", async ({
  page,
}) => {
  await walkIn(page, "Trainer");
  await openFigure(page);
  await field(page).fill(
    "start 60 20 heading 0\nmark far 60 120  # the cone\nlope left\nline to far\ncircle right 30\n",
  );
  const far = page.getByRole("button", { name: /^far:/ });
  await expect(far).toBeVisible();
  await expect(page.getByText(/This curve is on the wrong lead/)).toBeVisible();
  await far.focus();
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowRight");
  await expect(field(page)).toHaveValue(/mark far 61 121 {2}# the cone/);
  const box = await far.boundingBox();
  const [x, y] = [box.x + 6, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 40, y + 60, { steps: 5 });
  await page.mouse.up();
  const put = /mark far ([\d.]+) ([\d.]+) {2}# the cone/.exec(
    await field(page).inputValue(),
  );
  expect(Number(put[1])).toBeLessThan(58);
  expect(Number(put[2])).toBeLessThan(118);
  await page.getByRole("button", { name: "Play (R)" }).click();
  await expect(page.getByText("Line 4, at the lope, left lead")).toBeVisible();
  await page.getByRole("button", { name: "Stop (R)" }).click();
  await expect(page.getByRole("button", { name: "Play (R)" })).toBeVisible();
});

test("a drill is made for a horse, made again in another order, and kept", async ({
  page,
}) => {
  await walkIn(page, "Trainer");
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  const { id } = all.items.find((horse) => horse.name === "Bristle");
  await page.goto(`/patterns?view=figures&figure=new&horse=${id}`);
  const make = async () => {
    await page.getByRole("button", { name: "Make a drill" }).click();
    await page.getByRole("button", { name: "Stiff right" }).click();
    await page.getByRole("button", { name: "Anticipates" }).click();
    await page.getByLabel("Minutes").fill("5");
    await page.getByRole("button", { name: "Make it" }).click();
    await expect(page.getByText(/as hard to guess as one of/)).toBeVisible();
    return field(page).inputValue();
  };
  const first = await make();
  expect(first).toMatch(/^# For: stiff right, anticipates. 5 minutes.\n/);
  expect(first).toMatch(/circle right \d+ {2}# round again.*\nstop\n$/);
  await expect(page.getByText(/stiff right: soft on the circle/)).toBeVisible();
  await expect(faults(page)).toBeEmpty();
  const again = await make();
  expect(again).not.toBe(first);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("combobox", { name: "Figure" })).toHaveText(
    "Drill for Bristle",
  );
});
