import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { statusWord } from "../../parts/mark";
import { faces, gloveTarget, type Face } from "../../theme/tokens";
import { Big } from "./big";
import { RungFinder } from "./rung-finder";

/** What is being asked: rung and gait, changed with one touch each. Of the rungs, those of today's plan come first, then those that the
 * horse is on, then the rest. */
export function StepBar(props: {
  book: Schemas["CurriculumOut"];
  standing: Schemas["StandingOut"];
  plan: Schemas["PlanOut"] | undefined;
  current: Schemas["StepOut"];
  face: Face;
  onPick: (step: Schemas["StepOut"]) => void;
}) {
  const { book, current, onPick } = props;
  const look = faces[props.face];
  const gaits = book.steps.filter((s) => s.rung === current.rung);
  const pickRung = (rung: string) => {
    const step =
      book.steps.find((s) => s.rung === rung && s.gait === current.gait) ??
      book.steps.find((s) => s.rung === rung);
    if (step) onPick(step);
  };
  const statusOf = (rung: string) => {
    const of = props.standing.steps.filter((s) => s.id === rung || s.id.startsWith(`${rung}@`));
    // At the gait that is ridden now, else at the fastest that has any reps.
    const here = of.find((s) => s.gait === current.gait) ?? of.findLast((s) => s.sides.length > 0);
    return (here ?? of[0])?.status ?? "untried";
  };
  const groups = grouped(book, props.standing, props.plan);
  const [finding, setFinding] = useState(false);
  const box = {
    font: "inherit",
    fontSize: "1.1rem",
    fontWeight: 650,
    minHeight: gloveTarget,
    border: `2px solid ${look.line}`,
    background: look.panel,
    color: look.text,
  };
  return (
    <Box sx={{ display: "flex", gap: "6px" }}>
      <Box
        component="select"
        aria-label="Rung"
        value={current.rung}
        onChange={(e) => pickRung((e.target as HTMLSelectElement).value)}
        sx={{ ...box, flex: 1, minWidth: 0, px: 1, textOverflow: "ellipsis" }}
      >
        {groups.map(([name, rungs]) => (
          <optgroup key={name} label={name}>
            {rungs.map((r) => (
              <option key={r.id} value={r.id}>
                {r.id} {r.name}
                {/* In the narrow bar the name of what is ridden now has all the room; the list tells of the others how they stand. */}
                {r.id !== current.rung &&
                  ` (${statusOf(r.id) === "untried" ? "never taught" : statusWord(statusOf(r.id)).toLowerCase()})`}
              </option>
            ))}
          </optgroup>
        ))}
      </Box>
      <Big face={props.face} label="Find" onClick={() => setFinding(true)}>
        <svg
          width="24"
          height="24"
          viewBox="0 0 24 24"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.4"
          aria-hidden
        >
          <circle cx="10" cy="10" r="6.5" />
          <path d="M15 15l6 6" strokeLinecap="round" />
        </svg>
      </Big>
      {finding && (
        <RungFinder
          groups={groups}
          statusOf={statusOf}
          onPick={(rung) => (pickRung(rung), setFinding(false))}
          onClose={() => setFinding(false)}
        />
      )}
      {gaits.length > 1 && (
        <Box role="group" aria-label="Gait" sx={{ display: "flex" }}>
          {gaits.map((s) => (
            <Box
              key={s.id}
              component="button"
              type="button"
              aria-pressed={s.id === current.id}
              onClick={(e) => (onPick(s), e.currentTarget.blur())}
              sx={{
                ...box,
                px: 1.25,
                ml: "-2px",
                cursor: "pointer",
                background: s.id === current.id ? look.text : look.panel,
                color: s.id === current.id ? look.ground : look.text,
              }}
            >
              {s.gait}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** The rungs in the order in which they are looked for, each once. */
function grouped(
  book: Schemas["CurriculumOut"],
  standing: Schemas["StandingOut"],
  plan: Schemas["PlanOut"] | undefined,
): [string, Schemas["RungOut"][]][] {
  const rungOf = (step: string) => step.split("@")[0] ?? step;
  const planned = (plan?.parts ?? []).flatMap((p) => (p.step ? [rungOf(p.step)] : []));
  const inWork = standing.steps
    .filter((s) => s.sides.length > 0 && s.status !== "owned")
    .map((s) => rungOf(s.id));
  const seen = new Set<string>();
  const take = (ids: string[]) =>
    ids.flatMap((id) => {
      const rung = seen.has(id) ? undefined : book.rungs.find((r) => r.id === id);
      seen.add(id);
      return rung ? [rung] : [];
    });
  const groups: [string, Schemas["RungOut"][]][] = [
    ["Today's plan", take(planned)],
    ["In work", take(inWork)],
    ...book.ladders.map((l): [string, Schemas["RungOut"][]] => [
      l.name,
      take(book.rungs.filter((r) => r.ladder === l.letter).map((r) => r.id)),
    ]),
  ];
  return groups.filter(([, rungs]) => rungs.length > 0);
}
