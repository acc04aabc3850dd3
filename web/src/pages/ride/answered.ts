import type { Schemas } from "../../api/client";

type Check = Schemas["CheckOut"];

/** The plan with an answer laid over it. */
export function answered(
  plan: Schemas["PlanOut"],
  id: string,
  side: Schemas["CheckIn"]["side"],
  answer: Schemas["CheckAnswer"],
  words: string,
  who: string,
): Schemas["PlanOut"] {
  const checks = plan.checks.map((c) =>
    c.id === id
      ? { ...c, answers: [...c.answers.filter((a) => a.side !== side), { side, answer, words, who }] }
      : c,
  );
  const holds = (c: Check) => c.answers.length > 0 && c.answers.every((a) => a.answer !== "not");
  return { ...plan, checks, waits_for: checks.filter((c) => c.must && !holds(c)).map((c) => c.id) };
}
