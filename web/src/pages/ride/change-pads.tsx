import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { exercisesOf, type ExerciseLog } from "../../parts/exercise-log";
import { Toggle } from "../../parts/toggle";
import { capital } from "../../parts/words";
import { faces, gloveTarget, marigold, pine, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";

type Hand = Schemas["Hand"];
type Check = Schemas["ChangeCheck"];
type Change = Schemas["LeadChange"];

const hands = ["left", "right"] as const;
const none: Check = { shoulders: false, hip: false, relaxed: false, straight: false, held: false };

/** Changes of lead: the check before one, whether and where it is asked, and what came of it. */
export function ChangePads(props: { log: ExerciseLog; face: Face; goTo: (step: string) => void }) {
  const { log, face } = props;
  const look = faces[face];
  const [check, setCheck] = useState<Check>(none);
  const { seen } = log;
  const changes = exercisesOf(log.events, "change");
  const last = changes.at(-1);
  const parts = seen?.check ?? [];
  const missing = parts.find(({ part }) => !check[part]);
  const of = (to: Hand) => seen?.changes.find((it) => it.to === to);
  const asked = (to: Hand) => {
    const place = of(to)?.place ?? "middle";
    log.log({ kind: "change", of: { to, check, tenths: null, strides: null, lean: null, place } });
    // Each change has a check of its own.
    setCheck(none);
  };
  const correct = (more: Partial<Change>) =>
    last && log.correct(last.entry, { kind: "change", of: { ...last.event.of, ...more } });
  return (
    <Box
      role="group"
      aria-label="Changes of lead"
      sx={{ display: "grid", gridTemplateRows: "auto auto minmax(0, 1fr) auto", gap: "6px", minHeight: 0 }}
    >
      <Box
        role="group"
        aria-label="Before it is asked"
        sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(5, 1fr)" }, gap: "4px" }}
      >
        {parts.map(({ part, says }, n) => (
          <Toggle
            key={part}
            name={capital(says)}
            on={check[part]}
            colours={{ text: look.text, line: look.line, on: pine, onText: white }}
            onPress={() => setCheck({ ...check, [part]: !check[part] })}
            sx={{
              minHeight: gloveTarget,
              px: 0.75,
              lineHeight: 1.1,
              // The last of five has its row to itself on a phone.
              gridColumn: n + 1 === parts.length ? { xs: "span 2", sm: "auto" } : undefined,
            }}
          />
        ))}
      </Box>
      <Box
        role="status"
        sx={{ minHeight: 26, lineHeight: 1.25, borderLeft: `7px solid ${missing ? marigold : pine}`, pl: 1 }}
      >
        {missing ? `Not asked yet: first ${missing.says}.` : "The check is good."}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px", minHeight: 0 }}>
        {hands.map((to) => {
          const known = of(to);
          const offered = !missing && known?.offered;
          return (
            <Box
              key={to}
              sx={{
                display: "grid",
                gridTemplateRows: "minmax(96px, 1fr) auto auto",
                gap: "4px",
                minHeight: 0,
              }}
            >
              <Box
                component="button"
                type="button"
                disabled={!offered}
                onClick={() => asked(to)}
                sx={{
                  font: "inherit",
                  fontFamily: slab,
                  fontWeight: 700,
                  fontSize: "1.25rem",
                  lineHeight: 1.1,
                  border: 0,
                  color: white,
                  background: look[to],
                  cursor: "pointer",
                  touchAction: "manipulation",
                  "&:disabled": { opacity: 0.4, cursor: "default" },
                }}
              >
                Changed to the {to}
              </Box>
              <Box sx={{ fontSize: "0.95rem", lineHeight: 1.25 }}>{known && !missing && known.why}</Box>
              <Box sx={{ fontSize: "0.95rem", lineHeight: 1.25, color: look.muted }}>
                {known && ledgerSays(known)}
              </Box>
              {known?.instead && !missing && (
                <Big face={face} onClick={() => props.goTo(known.instead ?? "")}>
                  Go there
                </Big>
              )}
            </Box>
          );
        })}
      </Box>
      {last && <LastChange of={last.event.of} face={face} onCorrect={correct} />}
    </Box>
  );
}

function LastChange(props: { of: Change; face: Face; onCorrect: (more: Partial<Change>) => void }) {
  const { of, face, onCorrect } = props;
  const tenths = of.tenths ?? 0;
  return (
    <Box role="group" aria-label="The last change" sx={{ display: "flex", flexWrap: "wrap", gap: "4px" }}>
      <Big
        face={face}
        label="Front end sooner"
        onClick={() => onCorrect({ tenths: Math.max(-50, tenths - 1) })}
      >
        − 0.1 s
      </Big>
      <Box sx={{ alignSelf: "center", minWidth: 150, textAlign: "center", fontWeight: 650 }}>
        {tenthsSay(of.tenths)}
      </Box>
      <Big
        face={face}
        label="Hind end sooner"
        onClick={() => onCorrect({ tenths: Math.min(50, tenths + 1) })}
      >
        + 0.1 s
      </Big>
      <Big
        face={face}
        pressed={(of.strides ?? 0) > 0}
        onClick={() => onCorrect({ strides: ((of.strides ?? 0) + 1) % 4 || null })}
      >
        {of.strides ? `${of.strides} late behind` : "Late behind"}
      </Big>
      {hands.map((side) => (
        <Big
          key={side}
          face={face}
          pressed={of.lean === side}
          onClick={() => onCorrect({ lean: of.lean === side ? null : side })}
        >
          Leaned {side}
        </Big>
      ))}
    </Box>
  );
}

/** `Hind first by 0.2 s`. */
function tenthsSay(tenths: number | null | undefined): string {
  if (tenths == null) return "Hind to front not seen";
  const by = (Math.abs(tenths) / 10).toFixed(1);
  return tenths === 0 ? "Both at once" : `${tenths > 0 ? "Hind" : "Front"} first by ${by} s`;
}

function ledgerSays(known: Schemas["LeadChangesOut"]): string {
  if (known.all === 0) return "None logged lately.";
  const wrong = [
    known.front_first > 0 && `${known.front_first} front first`,
    known.late_behind > 0 && `${known.late_behind} late behind`,
    known.leaned > 0 && `${known.leaned} leaned`,
  ].filter(Boolean);
  const clean = `${known.clean} of ${known.all} clean`;
  return capital([clean, ...wrong].join(", ")) + ".";
}
