import { lazy, useState, type ComponentType } from "react";

/**
 * A page whose script is fetched when it is asked for. One that is here already is shown at once: a lazy component waits at its
 * first showing all the same, and what it stands in for is then kept away for some tenths of a second.
 */
export function page(load: () => Promise<ComponentType>) {
  let here: ComponentType | null = null;
  let fetching: Promise<ComponentType> | null = null;
  const fetch = () =>
    (fetching ??= load().then(
      (it) => (here = it),
      (error: unknown) => {
        // A script that did not come is asked for again.
        fetching = null;
        throw error;
      },
    ));
  function Page() {
    // One or the other for good: a page that changed under its reader would forget what was typed.
    const [Shown] = useState(() => here ?? lazy(() => fetch().then((it) => ({ default: it }))));
    return <Shown />;
  }
  return Object.assign(Page, { fetch });
}
