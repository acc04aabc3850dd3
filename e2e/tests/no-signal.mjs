import { expect } from "@playwright/test";

/** Waits until the device's helper is in charge and today's rides are on the device. */
export async function settled(page) {
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    if (!navigator.serviceWorker.controller)
      await new Promise((done) =>
        navigator.serviceWorker.addEventListener("controllerchange", done, {
          once: true,
        }),
      );
  });
}

/** Opens Today and waits until all that the ride needs is on the device. */
export async function bring(page, id, also = []) {
  const { horse_id } = await (
    await page.request.get(`/api/rides/${id}`)
  ).json();
  const needed = [
    `/api/rides/${id}`,
    `/api/rides/${id}/plan`,
    `/api/rides/${id}/tack`,
    `/api/rides/${id}/exercises`,
    `/api/horses/${horse_id}/standing`,
    `/api/horses/${horse_id}/gear`,
    `/api/curriculum?horse=${horse_id}`,
    "/api/set-ups",
    ...also,
  ];
  await page.goto("/");
  await settled(page);
  await page.reload();
  await expect
    .poll(
      () =>
        page.evaluate(async () => {
          const day = await caches.open("cavesson-day");
          return (await day.keys()).map((r) => {
            const { pathname, search } = new URL(r.url);
            return pathname + search;
          });
        }),
      { timeout: 60_000 },
    )
    .toEqual(expect.arrayContaining(needed));
}
