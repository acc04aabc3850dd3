import type { Schemas } from "../api/client";

export type Count = Schemas["Count"];
export type Measure = Schemas["Measure"];
export type Stage = Schemas["ObstacleStage"];
export type CountKind = Count["kind"];

/** How far a try at an obstacle can get, nearest first. */
export const STAGES: [Stage, string][] = [
  ["looks", "Looks"],
  ["toward", "Steps toward"],
  ["one-foot", "One foot"],
  ["two-feet", "Two feet"],
  ["four-feet", "Four feet"],
  ["stands", "Stands"],
  ["crosses", "Crosses"],
];
const across = STAGES.length - 1;

/** What the two ends of a count are called, the good one first. */
export const ENDS: Partial<Record<CountKind, [string, string]>> = {
  laps: ["soft", "left stiff"],
  "rein-share": ["soft", "stiff"],
  held: ["let go of it", "lost it"],
  steps: ["let it stand", "went wrong"],
};

/** A count as it is typed. Empty numbers are not counted yet. */
export type CountDraft = { n: string; of: string; good: boolean; stages: Stage[] };

export const blankDraft: CountDraft = { n: "", of: "", good: true, stages: [] };

/** What was counted, back in the fields it is typed in. */
export function draftOf(count: Count): CountDraft {
  const draft = (n: number, good: boolean, of = "") => ({ n: String(n), of, good, stages: [] });
  switch (count.kind) {
    case "laps":
      return draft(count.laps, count.soft);
    case "nose-ups":
      return draft(count.ups, true, String(count.circles));
    case "set-ups":
      return draft(count.accepted, true, String(count.asked));
    case "mounts":
      return draft(count.loose, true, String(count.mounts));
    case "rein-share":
      return draft(count.bridle, count.soft);
    case "held":
      return draft(count.seconds, !count.lost);
    case "steps":
      return draft(count.steps, !count.broke);
    case "tries":
      return { ...blankDraft, stages: count.tries };
  }
}

/** The count that was typed; null where nothing was. What it cannot be, the server says. */
export function countOf(kind: CountKind, draft: CountDraft): Count | null {
  const [n, of] = [Number(draft.n), Number(draft.of)];
  const { good } = draft;
  if (kind === "tries") return draft.stages.length > 0 ? { kind, tries: draft.stages } : null;
  const pair = kind === "nose-ups" || kind === "set-ups" || kind === "mounts";
  if (draft.n === "" || (pair && draft.of === "")) return null;
  switch (kind) {
    case "laps":
      return { kind, laps: n, soft: good };
    case "nose-ups":
      return { kind, circles: of, ups: n };
    case "set-ups":
      return { kind, asked: of, accepted: n };
    case "mounts":
      return { kind, mounts: of, loose: n };
    case "rein-share":
      return { kind, bridle: n, soft: good };
    case "held":
      return { kind, seconds: n, lost: !good };
    case "steps":
      return { kind, steps: n, broke: !good };
  }
}

const several = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;

/** What was counted, short enough for a mark on the screen. */
export function shortly(count: Count): string {
  switch (count.kind) {
    case "laps":
      return `${several(count.laps, "lap")}${count.soft ? "" : ", stiff"}`;
    case "nose-ups":
      return count.circles === 1 ? several(count.ups, "up") : `${count.ups} in ${count.circles}`;
    case "set-ups":
      return count.asked === 1 ? (count.accepted ? "waited" : "went") : `${count.accepted} of ${count.asked}`;
    case "mounts":
      return count.mounts === 1 ? (count.loose ? "loose" : "tight") : `${count.loose} of ${count.mounts}`;
    case "rein-share":
      return `${count.bridle}%${count.soft ? "" : ", stiff"}`;
    case "held":
      return `${count.seconds} s${count.lost ? ", lost" : ""}`;
    case "steps":
      return `${several(count.steps, "step")}${count.broke ? ", wrong" : ""}`;
    case "tries":
      return count.tries.map((t) => STAGES.find(([s]) => s === t)?.[1].toLowerCase()).join(", ");
  }
}

/** Whether it ended as it should, whatever the standard. */
export function endedWell(count: Count): boolean {
  switch (count.kind) {
    case "laps":
    case "rein-share":
      return count.soft;
    case "nose-ups":
      return count.ups === 0;
    case "set-ups":
      return count.accepted === count.asked;
    case "mounts":
      return count.loose === count.mounts;
    case "held":
      return !count.lost;
    case "steps":
      return !count.broke;
    case "tries":
      return count.tries.at(-1) === STAGES[across]?.[0];
  }
}
