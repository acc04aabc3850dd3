import { useSyncExternalStore } from "react";

const KINDS = ["online", "offline"];

function listen(told: () => void) {
  KINDS.forEach((kind) => window.addEventListener(kind, told));
  return () => KINDS.forEach((kind) => window.removeEventListener(kind, told));
}

/** Whether the device has a network: what it keeps can be looked at without one, and not changed. */
export const useSignal = () => useSyncExternalStore(listen, () => navigator.onLine);
