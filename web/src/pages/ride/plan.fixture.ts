import type { Schemas } from "../../api/client";

/** A check before mounting that nobody has answered. */
export const aCheck = (id: string, more: Partial<Schemas["CheckOut"]> = {}): Schemas["CheckOut"] => ({
  id,
  says: `Says ${id}`,
  why: `Why ${id}`,
  must: false,
  sides: [],
  answers: [],
  ...more,
});

/** A plan of nothing but its checks. */
export const aPlan = (more: Partial<Schemas["PlanOut"]>): Schemas["PlanOut"] => ({
  parts: [],
  why: [],
  next_best: null,
  quit: "",
  edited: false,
  heat: null,
  gear: [],
  waits_for: [],
  checks: [],
  ...more,
});
