import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useKeys } from "../../parts/keys";
import { ink, inkSoft, oxblood, paper, pine, rule, slab, white } from "../../theme/tokens";
import { halvesSay, PENALTIES, SCORES, scoreSays, totalOf } from "./halves";

type Mark = Schemas["MarkGiven"];

/** One part of the run at a time: its score in one tap, its penalties, and the total so far. */
export function Marks(props: {
  run: Schemas["ScoringOut"];
  marks: Mark[];
  onKeep: (marks: Mark[], done: boolean) => void;
}) {
  const { run, marks, onKeep } = props;
  const firstOpen = marks.findIndex((mark) => mark.score == null);
  const [at, setAt] = useState(Math.max(0, firstOpen));
  const mark = marks[at] ?? { score: null, penalties: [] };
  const change = (more: Partial<Mark>) =>
    onKeep(
      marks.map((it, n) => (n === at ? { ...it, ...more } : it)),
      false,
    );
  const penalties = mark.penalties ?? [];
  const last = at + 1 === run.manoeuvres.length;
  const next = () => setAt(Math.min(at + 1, run.manoeuvres.length - 1));
  const back = () => setAt(Math.max(at - 1, 0));
  useKeys({
    ...Object.fromEntries(SCORES.map((score, n) => [String(n + 1), () => change({ score })])),
    ArrowRight: next,
    Enter: next,
    ArrowLeft: back,
  });
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, mt: 1 }}>
        <Box sx={{ color: inkSoft, flex: 1 }}>
          Part {at + 1} of {run.manoeuvres.length}
        </Box>
        <Box
          role="status"
          aria-label="Total so far"
          sx={{ fontFamily: slab, fontWeight: 700, fontSize: "2rem" }}
        >
          {halvesSay(totalOf(marks))}
        </Box>
      </Box>
      <Box
        component="h2"
        sx={{ fontFamily: slab, fontSize: "1.75rem", lineHeight: 1.1, m: 0, minHeight: 76 }}
      >
        {run.manoeuvres[at]?.name}
      </Box>
      <Box
        role="group"
        aria-label="Score"
        sx={{ display: "grid", gridTemplateColumns: `repeat(${SCORES.length}, 1fr)`, gap: "3px", mt: 1 }}
      >
        {SCORES.map((score) => {
          const on = mark.score === score;
          const colour = score > 0 ? pine : score < 0 ? oxblood : ink;
          return (
            <Box
              key={score}
              component="button"
              type="button"
              aria-pressed={on}
              onClick={() => change({ score })}
              sx={{
                font: "inherit",
                fontFamily: slab,
                fontWeight: 700,
                fontSize: "1.25rem",
                minHeight: 92,
                minWidth: 0,
                p: 0,
                border: `2px solid ${colour}`,
                background: on ? colour : paper,
                color: on ? white : colour,
                cursor: "pointer",
                touchAction: "manipulation",
              }}
            >
              {scoreSays(score)}
            </Box>
          );
        })}
      </Box>
      <Box sx={{ color: inkSoft, fontWeight: 650, mt: 2 }}>Penalty</Box>
      <Box
        role="group"
        aria-label="Penalty"
        sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: "6px" }}
      >
        {PENALTIES.map((halves) => (
          <Button
            key={halves}
            variant="outlined"
            onClick={() => change({ penalties: [...penalties, halves] })}
            sx={{ minHeight: 60, fontSize: "1.2rem" }}
          >
            {halvesSay(halves)}
          </Button>
        ))}
      </Box>
      <Box sx={{ minHeight: 52, display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap", mt: 0.5 }}>
        {penalties.length > 0 && (
          <>
            <b>Off: {penalties.map(halvesSay).join(", ")}</b>
            <Button onClick={() => change({ penalties: penalties.slice(0, -1) })}>Take back the last</Button>
          </>
        )}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 2fr", gap: "6px", mt: 0.5 }}>
        <Button variant="outlined" disabled={at === 0} onClick={back} sx={{ minHeight: 64 }}>
          Previous
        </Button>
        {last ? (
          <Button
            variant="contained"
            disabled={firstOpen >= 0}
            onClick={() => onKeep(marks, true)}
            sx={{ minHeight: 64, fontSize: "1.15rem" }}
          >
            Done
          </Button>
        ) : (
          <Button variant="contained" onClick={next} sx={{ minHeight: 64, fontSize: "1.15rem" }}>
            Next: {run.manoeuvres[at + 1]?.name}
          </Button>
        )}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: "4px", mt: 2 }}>
        {run.manoeuvres.map((part, n) => (
          <Box
            key={n}
            component="button"
            type="button"
            aria-label={`Part ${n + 1}, ${part.name}`}
            aria-current={n === at ? "step" : undefined}
            onClick={() => setAt(n)}
            sx={{
              font: "inherit",
              minWidth: 48,
              minHeight: 48,
              border: `1.5px solid ${n === at ? ink : rule}`,
              background: n === at ? ink : paper,
              color: n === at ? white : ink,
              cursor: "pointer",
            }}
          >
            {n + 1}
            {marks[n]?.score != null && (
              <Box
                component="span"
                sx={{ display: "block", fontSize: "0.85rem", lineHeight: 1, fontWeight: 700 }}
              >
                {scoreSays(marks[n].score)}
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {last && firstOpen >= 0 && (
        <Box sx={{ color: inkSoft, mt: 1 }}>Part {firstOpen + 1} has no score yet.</Box>
      )}
    </>
  );
}
