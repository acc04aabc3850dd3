import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { HalfDots, statusWord } from "../../parts/mark";
import { ink, inkSoft, paper, rule } from "../../theme/tokens";

type Step = Schemas["StepStanding"];

const half = (step: Step | undefined, side: "left" | "right") =>
  step?.sides.find((s) => s.side === side || s.side === "both")?.status ?? "untried";

/** The ladders: a line a rung, and in it a step a gait, each with its two half-dots. */
export function Ladders({
  standing,
  book,
  picked,
  onPick,
}: {
  standing: Schemas["StandingOut"];
  book: Schemas["CurriculumOut"];
  picked: string;
  onPick: (step: string) => void;
}) {
  const of = new Map(standing.steps.map((s) => [s.id, s]));
  const begun = (rung: Schemas["RungOut"]) => standing.steps.some((s) => s.rung === rung.id);
  const ladders = book.ladders
    .map((ladder) => ({ ...ladder, rungs: book.rungs.filter((r) => r.ladder === ladder.letter && begun(r)) }))
    .filter((l) => l.rungs.length > 0);
  return (
    <Box component="section" aria-labelledby="ladders">
      <Typography variant="h2" id="ladders">
        The ladders
      </Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.92rem", mb: 1 }}>
        Half-dots: left and right. Full: owned. Bar: in work. Cross: slipping. Ring: open, not begun.
      </Typography>
      <Box sx={{ columns: { xs: 1, md: 2 }, columnGap: 3 }}>
        {ladders.map((ladder) => (
          <Box key={ladder.letter} sx={{ breakInside: "avoid", mb: 2 }}>
            <Typography variant="h3" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.25 }}>
              {ladder.letter} · {ladder.name}
            </Typography>
            {ladder.rungs.map((rung) => (
              <Box
                key={rung.id}
                sx={{
                  display: "flex",
                  gap: 1,
                  alignItems: "center",
                  borderBottom: `1px solid ${rule}`,
                  minHeight: 40,
                }}
              >
                <Box sx={{ flex: 1, minWidth: 0, lineHeight: 1.15 }}>
                  <Box component="span" sx={{ color: inkSoft }}>
                    {rung.id}
                  </Box>{" "}
                  {rung.name}
                </Box>
                {book.steps
                  .filter((s) => s.rung === rung.id && of.has(s.id))
                  .map((s) => (
                    <StepDot
                      key={s.id}
                      step={of.get(s.id)}
                      gait={rung.gaits.length > 1 ? s.gait : ""}
                      picked={picked === s.id}
                      onPick={() => onPick(s.id)}
                    />
                  ))}
              </Box>
            ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function StepDot({
  step,
  gait,
  picked,
  onPick,
}: {
  step?: Step;
  gait: string;
  picked: boolean;
  onPick: () => void;
}) {
  if (!step) return null;
  const words = step.due ? "owned, due for a few reps" : statusWord(step.status).toLowerCase();
  return (
    <Box
      component="button"
      type="button"
      onClick={onPick}
      aria-pressed={picked}
      aria-label={`${step.name}: ${words}`}
      title={`${step.name}: ${words}`}
      sx={{
        font: "inherit",
        border: 0,
        background: picked ? paper : "none",
        boxShadow: picked ? `inset 0 -3px 0 ${ink}` : "none",
        cursor: "pointer",
        minWidth: 44,
        minHeight: 40,
        p: 0.25,
        display: "grid",
        justifyItems: "center",
        alignContent: "center",
        color: inkSoft,
        fontSize: "0.75rem",
        lineHeight: 1.1,
      }}
    >
      <HalfDots left={half(step, "left")} right={half(step, "right")} size={20} />
      {step.due ? <b>due</b> : gait}
    </Box>
  );
}
