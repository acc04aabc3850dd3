/** The rides on which this device has seen someone get on, the latest last. Kept on it, since what it knows of a ride with no network may be
 * from before that, and nobody in the saddle is asked again to check the cinch from the ground. */
const KEY = "cavesson.mounted";
const MOST = 40;

export function mountedBefore(ride: string): boolean {
  return kept().includes(ride);
}

export function rememberMounted(ride: string) {
  try {
    const all = [...kept().filter((id) => id !== ride), ride];
    localStorage.setItem(KEY, JSON.stringify(all.slice(-MOST)));
  } catch {
    // The page that is open knows it, and the server as soon as something was logged.
  }
}

function kept(): string[] {
  try {
    const all: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]");
    return Array.isArray(all) ? all.filter((id) => typeof id === "string") : [];
  } catch {
    return [];
  }
}
