import type { Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";
import type { Side, Weight } from "../../parts/words";
import { newId } from "../../parts/ids";
import { answersOf } from "./remembered";
import { blankDraft, countOf, type Count, type CountDraft, type Measure } from "../../parts/counts";

type Book = Pick<Schemas["CurriculumOut"], "rungs" | "steps">;

/** A set as it is typed: counts of each outcome, and what the usual rep took. */
export type Line = {
  id: string;
  step: string;
  side: Side;
  gave: string;
  tried: string;
  none: string;
  weight: Weight;
  seconds: string;
  /** In place of the numbers above, on a rung that is not counted in asks. */
  count: CountDraft;
  /** Tag of the fault that showed, empty for none. */
  fault: string;
};

export function blankLine(step: Schemas["StepOut"] | undefined): Line {
  return {
    id: newId(),
    step: step?.id ?? "",
    side: step?.sides[0] ?? "both",
    gave: "",
    tried: "",
    none: "",
    weight: "lemon",
    seconds: "",
    count: blankDraft,
    fault: "",
  };
}

/** How the step of a line is counted. */
export function measureOf(line: Line, book: Book): Measure["kind"] {
  const step = book.steps.find((s) => s.id === line.step);
  return book.rungs.find((r) => r.id === step?.rung)?.measure.kind ?? "reps";
}

function countedIn(line: Line, book: Book): Count | null {
  const kind = measureOf(line, book);
  return kind === "reps" ? null : countOf(kind, line.count);
}

const count = (text: string) => Number(text || 0);

/** The lines that something was written in: those that are sent. */
export const filled = (lines: Line[], book: Book) =>
  lines.filter((l) =>
    measureOf(l, book) === "reps"
      ? count(l.gave) + count(l.tried) + count(l.none) > 0
      : countedIn(l, book) !== null,
  );

/** The id of a line's nth rep: the same however often the line is read, so that sending twice is harmless. */
const repId = (line: Line, n: number) => line.id.slice(0, 32) + n.toString(16).padStart(4, "0");

/**
 * Lines as sets of reps or counts. Empty lines give nothing. The fault of a set of reps goes to the first that was not whole.
 *
 * @throws Refused naming the seconds of each set that are no number.
 */
export function readLines(lines: Line[], book: Book): Schemas["LateSet"][] {
  const sent = filled(lines, book);
  const field = (n: number) => `sets[${n}].seconds`;
  const timed = sent.map((l) => (measureOf(l, book) === "reps" ? l.seconds : ""));
  const seconds = numbers(Object.fromEntries(timed.map((s, n) => [field(n), s])));
  return sent.flatMap((line, n): Schemas["LateSet"][] => {
    const step = book.steps.find((s) => s.id === line.step);
    if (!step) return [];
    const set = { id: line.id, position: n, rung: step.rung, gait: step.gait, side: line.side };
    const faults = line.fault ? [line.fault] : [];
    const counted = countedIn(line, book);
    if (counted) return [{ ...set, counted: { count: counted, faults } }];
    const answers = answersOf({
      gave: count(line.gave),
      tried: count(line.tried),
      none: count(line.none),
      weight: line.weight,
      seconds: seconds[field(n)] ?? null,
      faults,
    });
    const reps = answers.map((answer, k) => ({ id: repId(line, k), ...answer }));
    return [{ ...set, reps }];
  });
}
