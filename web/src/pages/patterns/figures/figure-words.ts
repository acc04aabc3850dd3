import type { Schemas } from "../../../api/client";
import { about, onTape } from "../../../parts/lengths";

type Units = Schemas["Units"];
type Ridden = Schemas["RiddenOut"];
export type Note = { line: number | null; text: string };

const gaitSays: Record<Schemas["FigureGait"], string> = {
  walk: "at the walk",
  jog: "at the jog",
  lope: "at the lope",
  run: "at the run",
  back: "backing",
  side: "sideways",
  stand: "standing",
};

const leadSays: Record<Schemas["LeadFaultKind"], string> = {
  wrong: "This curve is on the wrong lead: change before it, or write counter if it is meant.",
  "not-counter": "It says counter, and the curve is on its own lead.",
  switched: "The lead is switched without a change.",
  rollback: "It leaves the rollback on the lead that it does not turn to.",
};

const ruleSays: Record<string, string> = {
  hand: "left or right",
  length: "a length",
  coordinate: "a place in feet",
  unit: "a unit (ft, in, yd, m)",
  degrees: "degrees",
  seconds: "seconds",
  count: "a number of times",
  turns: "a number of turns",
  name: "a name",
  gait: "a gait",
  step: "a step, such as line, circle or stop",
  "end of line": "nothing more",
};

/** What is wrong at a place of the text: what should stand there, or the sentence that came with it. */
export function faultSays({ code, says, wanted }: Schemas["TextFault"]): string {
  if (code !== "expected") return `${says.charAt(0).toUpperCase()}${says.slice(1)}.`;
  const all = wanted.map((word) => ruleSays[word] ?? `“${word}”`);
  const last = all.pop();
  return `Here comes ${all.length > 0 ? `${all.join(", ")} or ${last}` : last}.`;
}

/** What the horse does now, in words: `at the lope, left lead`. */
export const goes = (gait: Schemas["FigureGait"], lead: Schemas["Hand"] | null | undefined) =>
  gaitSays[gait] + (lead ? `, ${lead} lead` : "");

/** Lines that are told one by one. */
const TOLD = 4;

/** `Line 3`, `Lines 3, 5, 8, 9 and 6 more`. */
export function linesSay(lines: number[]): string {
  const rest = lines.length - TOLD;
  const told = lines.slice(0, TOLD).join(", ");
  return `${lines.length === 1 ? "Line" : "Lines"} ${told}${rest > 0 ? ` and ${rest} more` : ""}`;
}

/** How long and how far, and whether it comes back to where it began. */
export function inShort(ridden: Ridden, units: Units): string {
  const seconds = Math.round(ridden.seconds);
  const minutes = Math.floor(seconds / 60);
  const time = minutes > 0 ? `${minutes} min ${seconds % 60} s` : `${seconds} s`;
  return `${about(units, ridden.length)}, ${time}${ridden.closes ? ", ends where it began" : ""}`;
}

function obstacleNote(of: Schemas["ObstacleOut"], who: string, units: Units): Note | null {
  const named = { poles: "Poles", bridge: "The bridge", backthrough: "The back-through" }[of.word] ?? of.word;
  const measure = of.word === "poles" ? "apart" : "wide";
  if (of.rule !== "ok") {
    const limits = of.most
      ? `${onTape(units, of.least)} to ${onTape(units, of.most)}`
      : `${onTape(units, of.least)} at least`;
    return {
      line: of.line,
      text: `${named} ${onTape(units, of.measure)} ${measure}: rule books have ${limits} ${gaitSays[of.gait]}.`,
    };
  }
  if (of.asks === "shorten")
    return { line: of.line, text: `${who} has to shorten for poles ${gaitSays[of.gait]}.` };
  if (of.asks === "reach")
    return { line: of.line, text: `${who} has to reach for poles ${gaitSays[of.gait]}.` };
  return null;
}

/** What is wrong with a figure as it is ridden, and what to mind, by line. */
export function notesOf(ridden: Ridden, horse: string, units: Units): Note[] {
  const who = ridden.measured ? horse : "An ordinary horse";
  const fence = ridden.near
    .filter((near) => !near.fits)
    .map((near): Note => {
      const what = near.name ?? "the fence";
      const text =
        near.distance > 0
          ? `It comes within ${onTape(units, near.distance)} of ${what}.`
          : near.name
            ? `It goes over ${what}.`
            : `It leaves the pen${ridden.outside > 0 ? `: ${about(units, ridden.outside)} of it are outside` : ""}.`;
      return { line: null, text };
    });
  const leads = ridden.leads.map((fault) => ({ line: fault.line, text: leadSays[fault.kind] }));
  const tight = ridden.tight.map((of) => ({
    line: of.lines[0] ?? null,
    text: `A curve of ${onTape(units, of.radius)} is tight ${gaitSays[of.gait]}: an ordinary horse goes ${onTape(units, of.least)} well.`,
  }));
  const runUps = ridden.run_ups.map((of) => ({
    line: of.line,
    text: `${about(units, of.straight)} straight before this stop; ${about(units, of.needs)} bring it to full speed.`,
  }));
  const obstacles = ridden.obstacles.flatMap((of) => obstacleNote(of, who, units) ?? []);
  const all = [...leads, ...tight, ...runUps, ...obstacles].sort((a, b) => (a.line ?? 0) - (b.line ?? 0));
  // A repeat says the same of its line each time.
  const once = all.filter(
    (note, n) => all.findIndex((o) => o.line === note.line && o.text === note.text) === n,
  );
  return [...fence, ...once];
}
