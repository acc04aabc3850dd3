import { lazy, useState, type ComponentType } from "react";

/**
 * A page, or a piece of one, whose script is fetched when it is asked for. One that is here already is shown at once: a lazy component
 * waits at its first showing all the same, and what it stands in for is then kept away for some tenths of a second.
 */
export function onDemand<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  let here: ComponentType<Props> | null = null;
  let fetching: Promise<ComponentType<Props>> | null = null;
  const fetch = () =>
    (fetching ??= load().then(
      (it) => (here = it),
      (error: unknown) => {
        // A script that did not come is asked for again.
        fetching = null;
        throw error;
      },
    ));
  function OnDemand(props: Props) {
    // One or the other for good: a page that changed under its reader would forget what was typed.
    const [Shown] = useState<ComponentType<Props>>(
      () => here ?? (lazy(() => fetch().then((it) => ({ default: it }))) as unknown as ComponentType<Props>),
    );
    return <Shown {...props} />;
  }
  return Object.assign(OnDemand, { fetch });
}
