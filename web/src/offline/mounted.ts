/** The rides on which this device has seen someone get on lately, and when. Kept on it, since what it knows of a ride with no network may
 * be from before that, and nobody in the saddle is asked again to check the cinch from the ground. */
const KEY = "cavesson.mounted";
/** Whoever comes back later than this gets on anew. */
const LATELY_MS = 2 * 60 * 60 * 1000;

export function mountedLately(ride: string, now = Date.now()): boolean {
  return lately(now)[ride] !== undefined;
}

export function rememberMounted(ride: string, now = Date.now()) {
  try {
    localStorage.setItem(KEY, JSON.stringify({ ...lately(now), [ride]: now }));
  } catch {
    // The page that is open knows it, and the server as soon as something was logged.
  }
}

/** Another rider gets on anew. */
export function forgetMounted() {
  try {
    localStorage.removeItem(KEY);
  } catch {
    // Nothing was kept either.
  }
}

function lately(now: number): Record<string, number> {
  try {
    const all = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, unknown> | null;
    return Object.fromEntries(
      Object.entries(all ?? {}).filter(
        (it): it is [string, number] => typeof it[1] === "number" && Math.abs(now - it[1]) < LATELY_MS,
      ),
    );
  } catch {
    return {};
  }
}
