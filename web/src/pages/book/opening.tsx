import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { ink, inkSoft, paper, rule, sageDark } from "../../theme/tokens";
import { RungLink } from "./rung-link";

/** The Book's first page, for someone who has not seen it: what the ladders are, and how a call is made. */
export function Opening({ book, onPick }: { book: Schemas["CurriculumOut"]; onPick: (id: string) => void }) {
  const link = (id: string) => <RungLink id={id} book={book} onPick={onPick} />;
  return (
    <Box
      component="article"
      aria-labelledby="opening"
      sx={{ background: paper, border: `1px solid ${rule}`, borderTop: `3px solid ${ink}`, p: 2 }}
    >
      <Typography variant="h2" id="opening">
        New here? Two minutes
      </Typography>
      <Step n={1} title="One ask, one answer, one release">
        A horse learns from the release. You ask, it searches, and the moment it answers you let go. Each ask
        is logged: did it give, how much was in your hand, how many seconds it took, and which side.
      </Step>
      <Step n={2} title="Rungs and ladders">
        One thing that is taught is a rung, such as {link("S1")}. A rung has an ask, an answer and a standard.
        Rungs stand on others: nothing is begun before what it needs is there. A ladder is the rungs of one
        subject, and each faster gait is a step of its own.
      </Step>
      <Step n={3} title="Left and right are two horses">
        Most rungs are trained and owned on each side. Every rung says what left means on it: the rein, the
        hand of the circle, the lead or the direction of the turn.
      </Step>
      <Step n={4} title="Owned">
        A rung is owned when the horse would meet its standard on an ordinary day, on both sides, shown on
        separate days. One good day is not enough, and one bad day does not take it away.
      </Step>
      <Step n={5} title="The call">
        From all that was logged Cavesson works out how likely the horse is at the standard, and calls it: go
        on, stay, go back, leave it alone today, or have it looked at. It says why in figures. The trainer may
        overrule any call, and the record shows later who was right.
      </Step>
      <Step n={6} title="When something goes wrong">
        Tap the fault where it happens. A remedy always leads down: to a rung below that is likely the cause.
        After a few rides of it the fault is looked for again where it was.
      </Step>
      <Typography sx={{ mt: 2, color: inkSoft }}>
        Pick a ladder above, or begin with {link("G7")}, the brake that everything ridden rests on.
      </Typography>
    </Box>
  );
}

function Step({ n, title, children }: { n: number; title: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "2rem 1fr", mt: 1.5 }}>
      <Typography aria-hidden sx={{ fontWeight: 750, fontSize: "1.3rem", color: sageDark, lineHeight: 1.2 }}>
        {n}
      </Typography>
      <Box>
        <Typography variant="h3">{title}</Typography>
        <Typography sx={{ maxWidth: "38rem" }}>{children}</Typography>
      </Box>
    </Box>
  );
}
