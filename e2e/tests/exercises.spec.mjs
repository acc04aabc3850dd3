// A drill is made, kept and called on a ride; a course is laid, its strides are mended, and tries are logged without a signal.
import { expect, test } from "@playwright/test";
import { getOnIfAsked, send, walkIn } from "./barn.mjs";

test.use({ viewport: { width: 1280, height: 800 } });

const phone = { width: 390, height: 844 };
const field = (page) =>
  page.getByRole("textbox", { name: "Text of the figure" });

async function horseId(page, name) {
  const all = await (await page.request.get("/api/horses?limit=200")).json();
  return all.items.find((horse) => horse.name === name).id;
}

/** The ride whose page is open, with or without a figure. */
const rideOf = (page) => new URL(page.url()).pathname.split("/ride/")[1];

async function logged(page, kind) {
  const told = await (
    await page.request.get(`/api/rides/${rideOf(page)}/exercises`)
  ).json();
  return told.events.map(({ event }) => event).filter((it) => it.kind === kind);
}

/** Opens today's ride of a horse from its page, and gets on. */
async function openRide(page, name) {
  await page.goto(`/horses/${await horseId(page, name)}`);
  await page
    .getByRole("main")
    .getByRole("link", { name: /^(Ride|Go on)$/ })
    .or(page.getByRole("button", { name: "Ride", exact: true }))
    .click();
  await getOnIfAsked(page, page.getByLabel("Rung"));
}

test("a drill is made for a horse and ridden call by call, by taps and by a clicker", async ({
  page,
}) => {
  await walkIn(page, "Trainer");
  await page.goto(
    `/patterns?view=figures&figure=new&horse=${await horseId(page, "Bristle")}`,
  );
  await page.getByRole("button", { name: "Make a drill" }).click();
  await page.getByRole("button", { name: "Stiff left" }).click();
  await page.getByLabel("Minutes").fill("2");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByText(/as hard to guess as one of/)).toBeVisible();
  const name = `Two minutes ${Date.now()}`;
  await page.getByLabel("Name").fill(name);
  await page.setViewportSize(phone);
  await page.getByRole("button", { name: "Ride it" }).click();
  const pads = page.getByRole("group", { name: "Calls" });
  await getOnIfAsked(page, pads);

  const now = pads.getByRole("status");
  await expect(now).toContainText("1 of ");
  const all = Number(/of (\d+)/.exec(await now.innerText())[1]);
  await expect(pads.getByText(/^Then: /)).toBeVisible();
  await pads.getByRole("button", { name: "Again" }).click();
  await expect(now).toContainText("try 2");
  await pads.getByRole("button", { name: "Done" }).click();
  await expect(now).toContainText(`2 of ${all}`);
  // What was tapped by mistake is taken back.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(now).toContainText(`1 of ${all}`);
  for (let n = 1; n <= all; n += 1) {
    await expect(now).toContainText(`${n} of ${all}`);
    await page.keyboard.press("PageDown");
  }
  await expect(now).toHaveText(`All ${all} called.`);
  await expect(
    pads.getByText(`${all - 1} of ${all} at the first try.`),
  ).toBeVisible();
  await expect
    .poll(async () => (await logged(page, "move")).length)
    .toBe(all + 1);
  const moves = await logged(page, "move");
  expect(moves.map((it) => it.answer).filter((it) => it === "again")).toEqual([
    "again",
  ]);
  expect(new Set(moves.map((it) => it.figure))).toEqual(new Set([name]));
  // Where it stands is known after the page is opened anew.
  await page.reload();
  await expect(now).toHaveText(`All ${all} called.`);
});

test("a course is laid, a stride is made whole, and its obstacles are tried", async ({
  page,
  context,
}) => {
  await walkIn(page, "Trainer");
  const ground = crypto.randomUUID();
  const made = await send(page, "PUT", `/api/grounds/${ground}`, {
    name: `Course ${Date.now()}`,
    place: "arena",
    surface: "sand",
    length: 70,
    width: 45,
  });
  expect(made.status()).toBe(201);
  const horse = await horseId(page, "Lantern");
  await page.goto(
    `/patterns?view=course&figure=new&ground=${ground}&horse=${horse}`,
  );
  await field(page).fill("start 60 30 heading 0\nwalk\nline 10\nstop\n");
  const lay = page.getByRole("region", { name: "Lay one more" });
  await lay.getByRole("button", { name: "Bridge", exact: true }).click();
  await lay.getByRole("button", { name: "Water" }).click();
  await lay.getByRole("button", { name: "Poles, jog" }).click();
  await expect(field(page)).toHaveValue(
    /bridge 10 wide 42 in\nwalk\nline 13\nline 12 {2}# water\njog\nline 19\npoles 4 spacing 38 in\nstop\n$/,
  );
  const list = page.getByRole("region", { name: "The course for Lantern" });
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await expect(list.getByRole("listitem").nth(1)).toContainText("Water");

  // This horse goes eight strides of the jog between the cones: nineteen feet are two and a half of them.
  await page.getByRole("button", { name: "Measure its strides" }).click();
  const form = page.getByRole("dialog");
  await form.getByLabel("Strides at the jog").fill("8");
  await expect(form).toContainText("A stride of 7 ft 6 in");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  const poles = list.getByRole("listitem").nth(2);
  await expect(poles).toContainText(
    "2.5 strides from the one before: 3 ft 6 in longer makes it 3.",
  );
  await poles.getByRole("button", { name: "Lengthen it" }).click();
  await expect(field(page)).toHaveValue(/line 22.5\npoles 4/);
  await expect(poles).toContainText("3 strides from the one before.");

  await page.getByLabel("Name").fill(`Course ${Date.now()}`);
  await page.setViewportSize(phone);
  await page.getByRole("button", { name: "Ride it" }).click();
  await getOnIfAsked(page, page.getByRole("group", { name: "Calls" }));
  await page.getByRole("button", { name: "Obstacles" }).click();
  const pads = page.getByRole("group", { name: "Tries at an obstacle" });
  await pads.getByRole("button", { name: "Bridge", exact: true }).click();
  await expect(pads.getByRole("status")).toContainText("Let it look");
  const tap = (name) => pads.getByRole("button", { name, exact: true }).click();
  await tap("Two feet");
  await tap("Leaked right");
  await context.setOffline(true);
  await tap("One foot");
  await tap("Leaked right");
  await expect(pads.getByRole("status")).toContainText(
    "Two feet, leaked right; One foot, leaked right.",
  );
  await context.setOffline(false);
  await expect(pads.getByRole("status")).toContainText(
    "It leaks right: guard there with rein and leg.",
    { timeout: 15_000 },
  );
  await tap("Crosses");
  await expect(pads.getByRole("status")).toContainText(
    "It crossed. Ask again at once",
  );
  await tap("Crosses");
  await expect(pads.getByRole("status")).toContainText("Leave it at that.");
  const tries = await logged(page, "try");
  expect(tries.map(({ of }) => `${of.reached} ${of.leaked ?? ""}`)).toEqual([
    "two-feet right",
    "one-foot right",
    "crosses ",
    "crosses ",
  ]);
  // Each try counts for the rung of the bridge, too; one that is taken back counts for neither.
  await page.getByRole("button", { name: "Undo" }).click();
  const counted = async () => {
    const ride = await (
      await page.request.get(`/api/rides/${rideOf(page)}`)
    ).json();
    return ride.sets.filter(
      (set) => set.rung === "O2" && set.counted && !set.counted.removed,
    ).length;
  };
  await expect.poll(counted).toBe(3);
  await expect.poll(() => logged(page, "try")).toHaveLength(3);
});

test("set-ups end as they are drawn, and nothing goes after a guess", async ({
  page,
}) => {
  await walkIn(page, "Trainer");
  await page.setViewportSize(phone);
  await openRide(page, "Verbena");
  await page.getByLabel("Rung").selectOption("L1");
  await page.getByRole("button", { name: "Go or not" }).click();
  const left = page.getByRole("group", { name: "Set-ups, left lead" });
  const ends = left.getByRole("group", { name: "It ends in, left lead" });
  await left.getByRole("button", { name: "Went by itself" }).click();
  await expect(ends.getByRole("button", { name: "Wait" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await expect(left).toContainText("1 by itself");
  // The trainer may have it otherwise.
  await ends.getByRole("button", { name: "Walk on" }).click();
  await left.getByRole("button", { name: "Walked on" }).click();
  await expect.poll(async () => (await logged(page, "set-up")).length).toBe(2);
  const [guess, walked] = await logged(page, "set-up");
  expect([guess.of.guessed, walked.of.told]).toEqual([true, "walk-on"]);
});

test("a change is asked once the check is good, and what came of it is noted", async ({
  page,
}) => {
  await walkIn(page, "Trainer");
  await page.setViewportSize(phone);
  await openRide(page, "Hollis");
  await page.getByLabel("Rung").selectOption("L7");
  await page.getByRole("button", { name: "Changes" }).click();
  const pads = page.getByRole("group", { name: "Changes of lead" });
  const changed = pads.getByRole("button", { name: "Changed to the right" });
  await expect(changed).toBeDisabled();
  await expect(pads.getByRole("status")).toContainText("first relaxed");
  const check = pads.getByRole("group", { name: "Before it is asked" });
  const good = async () => {
    for (const part of await check.getByRole("button").all())
      await part.click();
  };
  await good();
  await expect(pads).toContainText("wait for the hind end");
  await changed.click();
  await expect(changed).toBeDisabled();
  const last = pads.getByRole("group", { name: "The last change" });
  await last.getByRole("button", { name: "Front end sooner" }).click();
  await expect(last).toContainText("Front first by 0.1 s");
  await good();
  await changed.click();
  await last.getByRole("button", { name: "Front end sooner" }).click();
  await good();
  await expect(pads).toContainText("Hold the counter-lope first.");
  await expect(changed).toBeDisabled();
  await pads.getByRole("button", { name: "Go there" }).click();
  await expect(page.getByLabel("Rung")).toHaveValue("L5");
});
