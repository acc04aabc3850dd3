import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { sideName } from "../../parts/words";
import { type Face, faces, softness, white } from "../../theme/tokens";
import { Big } from "./big";
import { FaultRow, toggled } from "./fault-row";
import type { Draft } from "./session";

/** Which rein hung, on an ask of both: optional, one tap. */
const HANGS = ["hangs-left", "hangs-right"];

type Choice = { outcome: Schemas["Outcome"]; missing: Schemas["Part"] | null; label: string; key: string };

/** The outcomes that a rung can have. Two-part answers count whole, and a half says which half. */
export function outcomesOf(rung: Schemas["RungOut"]): Choice[] {
  const [first, second] = rung.answer;
  const halves: Choice[] =
    first && second
      ? [
          { outcome: "tried", missing: "second", label: `Only: ${first}`, key: "T" },
          { outcome: "tried", missing: "first", label: `Only: ${second}`, key: "Y" },
        ]
      : [{ outcome: "tried", missing: null, label: "Tried", key: "T" }];
  return [
    { outcome: "gave", missing: null, label: second ? "Gave both" : "Gave", key: "G" },
    ...halves,
    { outcome: "none", missing: null, label: "None", key: "N" },
  ];
}

type Props = {
  draft: Draft;
  behind: number;
  rung: Schemas["RungOut"];
  faults: Schemas["FaultOut"][];
  weights: Schemas["WeightOut"][];
  face: Face;
  fill: (change: Partial<Draft>) => void;
  remove: () => void;
  leave: () => void;
};

/** What an ask came to: one tap for the outcome, one for the weight, faults if there were any. */
export function Tray(props: Props) {
  const { draft, rung, fill, weights } = props;
  const look = faces[props.face];
  const toggle = (tag: string) => fill({ faults: toggled(draft.faults, tag) });
  // Of both reins one lets go last, or none does.
  const hang = (tag: string) => {
    const others = draft.faults.filter((t) => !HANGS.includes(t));
    fill({ faults: draft.faults.includes(tag) ? others : [tag, ...others] });
  };
  return (
    <Box role="group" aria-label="What it came to" sx={{ display: "grid", gap: "6px" }}>
      <Row columns="auto 1fr auto">
        <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
          <Big
            face={props.face}
            label="A tenth less"
            onClick={() => fill({ seconds: Math.max(0, round((draft.seconds ?? 0) - 0.1)) })}
          >
            −
          </Big>
          <Box
            component="output"
            aria-label="Seconds"
            sx={{ minWidth: 64, textAlign: "center", fontWeight: 700, fontSize: "1.25rem" }}
          >
            {draft.seconds === null ? "no time" : `${draft.seconds.toFixed(1)} s`}
          </Box>
          <Big
            face={props.face}
            label="A tenth more"
            onClick={() => fill({ seconds: Math.min(3600, round((draft.seconds ?? 0) + 0.1)) })}
          >
            +
          </Big>
        </Box>
        <Box sx={{ alignSelf: "center", lineHeight: 1.2, fontSize: "1rem" }}>
          <Box component="b" sx={{ px: 0.75, py: 0.25, color: white, background: look[draft.side] }}>
            {sideName[draft.side]}
          </Box>
          {draft.of && " put right"}
          {props.behind > 0 && ` (${props.behind} more to tell)`}
        </Box>
        <Box sx={{ display: "flex", gap: "6px" }}>
          {draft.of && (
            <Big face={props.face} label="Take this rep out" onClick={props.remove}>
              Take out
            </Big>
          )}
          <Big face={props.face} label={draft.of ? "Cancel" : "Not an ask"} onClick={props.leave}>
            ✕
          </Big>
        </Box>
      </Row>
      <Row columns={`repeat(${outcomesOf(rung).length}, minmax(0, 1fr))`}>
        {outcomesOf(rung).map((c) => (
          <Big
            key={c.key}
            face={props.face}
            pressed={draft.outcome === c.outcome && draft.missing === c.missing}
            onClick={() => fill({ outcome: c.outcome, missing: c.missing })}
            hint={c.key}
          >
            {c.label}
          </Big>
        ))}
      </Row>
      <Row columns="repeat(auto-fit, minmax(84px, 1fr))">
        {weights.map((w, n) => (
          <Big
            key={w.weight}
            face={props.face}
            pressed={draft.weight === w.weight}
            onClick={() => fill({ weight: w.weight })}
            hint={String(n + 1)}
            stripe={softness(1 - n / (weights.length - 1))}
          >
            {w.weight === "none" ? "no rein" : w.weight}
          </Big>
        ))}
      </Row>
      <FaultRow
        tags={[...(draft.side === "both" ? HANGS : []), ...rung.faults]}
        all={props.faults}
        face={props.face}
        on={draft.faults}
        onToggle={(tag) => (HANGS.includes(tag) ? hang(tag) : toggle(tag))}
      />
    </Box>
  );
}

const round = (seconds: number) => Math.round(seconds * 10) / 10;

function Row({ columns, children }: { columns: string; children: ReactNode }) {
  return <Box sx={{ display: "grid", gap: "6px", gridTemplateColumns: columns }}>{children}</Box>;
}
