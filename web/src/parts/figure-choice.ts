import type { Schemas } from "../api/client";

type All = Schemas["Figures"];
export type ChosenFigure = { id: string | null; name: string; text: string };

/** How a figure that comes with Cavesson is named in an address. */
export const readyId = (n: number) => `ready ${n}`;

/** The figure of an address: one that the barn keeps, or one that comes with Cavesson (without an id). */
export function chosenFigure(all: All | undefined, wanted: string | null): ChosenFigure | null {
  const kept = all?.items.find((figure) => figure.id === wanted);
  if (kept) return kept;
  const ready = all?.ready[Number(/^ready (\d+)$/.exec(wanted ?? "")?.[1] ?? -1)];
  return ready ? { id: null, ...ready } : null;
}

/** All figures by id and name, to choose from. */
export const figureChoices = (all: All): [string, string][] => [
  ...all.items.map((figure): [string, string] => [figure.id, figure.name]),
  ...all.ready.map((figure, n): [string, string] => [readyId(n), `${figure.name} (ready)`]),
];
