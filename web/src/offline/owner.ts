const OWNER = "cavesson.device.owner";

/** Who was signed in last on this device and did not sign out; the session may have ended all the same. */
export function deviceOwner(): string | null {
  try {
    return localStorage.getItem(OWNER);
  } catch {
    return null;
  }
}

/** Notes whose device it is; null when they sign out. */
export function setDeviceOwner(person: string | null) {
  try {
    if (person === null) localStorage.removeItem(OWNER);
    else localStorage.setItem(OWNER, person);
  } catch {
    // A device that keeps nothing has nothing to forget either.
  }
}
