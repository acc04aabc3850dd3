import { useCallback, useState } from "react";

const KEY = "cavesson.figure";

/** The text of a figure as it is typed. What is not saved yet stays on this page's tab until it is: leaving the page loses nothing. */
export function useTyped(draft: { text: string }, of: string) {
  const place = `${KEY}.${of}`;
  const [text, set] = useState(() => read(place) ?? draft.text);
  const setText = useCallback(
    (next: string | ((old: string) => string)) =>
      set((old) => {
        const now = typeof next === "function" ? next(old) : next;
        write(place, now === draft.text ? null : now);
        return now;
      }),
    [place, draft.text],
  );
  const forget = useCallback(() => write(place, null), [place]);
  return [text, setText, forget] as const;
}

/** Forgets what was typed of a figure and not saved. */
export const forgetTyped = (of: string) => write(`${KEY}.${of}`, null);

function read(place: string): string | null {
  try {
    return sessionStorage.getItem(place);
  } catch {
    return null;
  }
}

function write(place: string, text: string | null) {
  try {
    if (text === null) sessionStorage.removeItem(place);
    else sessionStorage.setItem(place, text);
  } catch {
    // A tab that keeps nothing: what was typed lives as long as the page does.
  }
}
