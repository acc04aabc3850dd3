import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { CallStamp } from "../../parts/mark";
import { useMe } from "../../parts/me";
import { ink, inkSoft, marigold, oxblood, paper, rule, sageDark, slab } from "../../theme/tokens";
import { FindingForm, OverruleForm } from "./overrule-form";

type Step = Schemas["StepStanding"];

const edge: Record<Schemas["Call"], string> = {
  back: oxblood,
  hold: ink,
  advance: sageDark,
  "look-at": marigold,
  "leave-alone": inkSoft,
};

/** The calls that matter now: the horse before its rungs, then what slips, what is in work, what was last won, what is due. */
export function Calls({
  horse,
  standing,
  onPick,
}: {
  horse: string;
  standing: Schemas["StandingOut"];
  onPick: (step: string) => void;
}) {
  const me = useMe();
  const [overruling, setOverruling] = useState<Step | null>(null);
  const [finding, setFinding] = useState(false);
  const shown = standing.horse?.call === "look-at" ? [] : pick(standing);
  const untouched = standing.steps.every((s) => s.call == null);
  return (
    <Box component="section" aria-labelledby="calls" sx={{ minWidth: 0 }}>
      <Typography variant="h2" id="calls" sx={{ mb: 1 }}>
        The call
      </Typography>
      {standing.horse && (
        <HorseCard call={standing.horse} onFound={me.role === "owner" ? null : () => setFinding(true)} />
      )}
      {untouched && (
        <Box sx={{ background: paper, borderLeft: `6px solid ${ink}`, p: 1.5 }}>
          Nothing logged yet. Begin with {standing.line.main?.name.toLowerCase()}; the first call comes with
          the first reps.
        </Box>
      )}
      <Box sx={{ display: "grid", gap: 1 }}>
        {shown.map((step, n) => (
          <CallCard
            key={step.id}
            step={step}
            large={n === 0}
            onPick={onPick}
            onOverrule={me.role === "owner" ? null : () => setOverruling(step)}
          />
        ))}
      </Box>
      {overruling && <OverruleForm horse={horse} step={overruling} onClose={() => setOverruling(null)} />}
      {finding && <FindingForm horse={horse} onClose={() => setFinding(false)} />}
    </Box>
  );
}

/** What slips, the main subject, the last that was won, what holds, and one that is due: four at most. */
function pick(standing: Schemas["StandingOut"]): Step[] {
  const called = standing.steps.filter((s) => s.sides.length > 0);
  const back = called.filter((s) => s.call === "back");
  const main = called.filter((s) => s.id === standing.line.main?.id && s.call !== "back");
  const rest = called.filter((s) => !back.includes(s) && !main.includes(s));
  const overruled = rest.filter((s) => s.why[0]?.startsWith("Overruled"));
  const hold = rest.filter((s) => (s.call === "hold" || s.call === "leave-alone") && s.status === "learning");
  const advance = rest.filter((s) => s.call === "advance" && s.next.length > 0);
  const due = rest.filter((s) => s.due);
  const all = [...back, ...main, ...overruled, ...hold.slice(0, 1), ...advance.slice(-1), ...due, ...hold];
  return [...new Set(all)].slice(0, 4);
}

function HorseCard({ call, onFound }: { call: Schemas["HorseCallOut"]; onFound: (() => void) | null }) {
  const [first, ...rest] = call.why;
  return (
    <Box
      role={call.call === "look-at" ? "alert" : undefined}
      data-horse-call={call.call}
      sx={{
        background: paper,
        border: `2px solid ${edge[call.call]}`,
        borderLeftWidth: 10,
        px: 2,
        py: 1.5,
        mb: 1,
      }}
    >
      <CallStamp call={call.call} />
      <Typography sx={{ fontSize: "1.12rem", fontWeight: 600, mt: 0.5 }}>{first}</Typography>
      {rest.map((why) => (
        <Typography key={why} sx={{ color: inkSoft }}>
          {why}
        </Typography>
      ))}
      {call.look.length > 0 && (
        <Box
          component="ol"
          aria-label="What to look at"
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", listStyle: "none", p: 0, m: 0, mt: 1 }}
        >
          {call.look.map((what, n) => (
            <Box component="li" key={what} sx={{ border: `1.5px solid ${ink}`, px: 1, fontWeight: 650 }}>
              {n + 1} {what}
            </Box>
          ))}
        </Box>
      )}
      {call.look.length > 0 && onFound && (
        <Button variant="contained" onClick={onFound} sx={{ mt: 1.25 }}>
          Write down what was found
        </Button>
      )}
    </Box>
  );
}

function CallCard({
  step,
  large,
  onPick,
  onOverrule,
}: {
  step: Step;
  large: boolean;
  onPick: (step: string) => void;
  onOverrule: (() => void) | null;
}) {
  if (!step.call) return null;
  const [first, ...rest] = step.why;
  return (
    <Box
      data-call={step.id}
      sx={{
        background: paper,
        border: `1px solid ${rule}`,
        borderLeft: `6px solid ${edge[step.call]}`,
        px: 2,
        py: large ? 1.25 : 0.75,
      }}
    >
      <Box sx={{ display: "flex", gap: 1.25, alignItems: "center", flexWrap: "wrap" }}>
        <CallStamp call={step.call} />
        <Box
          component="button"
          type="button"
          onClick={() => onPick(step.id)}
          sx={{
            font: "inherit",
            background: "none",
            border: 0,
            p: 0,
            minHeight: 28,
            cursor: "pointer",
            fontFamily: slab,
            fontWeight: 650,
            fontSize: "1.08rem",
            color: ink,
            textAlign: "left",
            textDecoration: "underline",
            textDecorationThickness: "1px",
            textUnderlineOffset: "3px",
          }}
        >
          {step.name}
        </Box>
        {onOverrule && (
          <Button
            size="small"
            onClick={onOverrule}
            aria-label={`Overrule ${step.name}`}
            sx={{ ml: "auto", minHeight: 32, px: 1, fontSize: "0.92rem", textDecoration: "underline" }}
          >
            Overrule
          </Button>
        )}
      </Box>
      <Typography sx={{ fontSize: large ? "1.1rem" : "1rem", fontWeight: large ? 600 : 400, mt: 0.25 }}>
        {first}
      </Typography>
      {large && rest.length > 0 && (
        <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, color: inkSoft }}>
          {rest.slice(0, 4).map((why) => (
            <li key={why}>{why}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}
