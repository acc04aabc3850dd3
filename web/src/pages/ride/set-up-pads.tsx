import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Count } from "../../parts/counts";
import { exercisesOf, type ExerciseLog } from "../../parts/exercise-log";
import { useKeys } from "../../parts/keys";
import { Toggle } from "../../parts/toggle";
import { faces, gloveTarget, slab, white, type Face } from "../../theme/tokens";
import { Big } from "./big";

type Told = Schemas["SetUpTold"];
type Lead = Schemas["Hand"];

const leads = ["left", "right"] as const;
const told: [Told, string][] = [
  ["go", "Go"],
  ["walk-on", "Walk on"],
  ["wait", "Wait"],
];
const toldName = Object.fromEntries(told) as Record<Told, string>;
const doneName: Record<Told, string> = { go: "Went when told", "walk-on": "Walked on", wait: "Waited" };

/** Set-ups for the lope by lead: what this one ends in, drawn so that the horse cannot guess it, and whether it waited for it. */
export function SetUpPads(props: {
  log: ExerciseLog;
  face: Face;
  /** Counts a set-up that was not to go for its rung, too; gives the id that both go by. */
  onCount: (side: Lead, count: Count) => string;
}) {
  const { log, face } = props;
  const [keyed, setKeyed] = useState<Lead>("left");
  const tell = (lead: Lead, what: Told, guessed: boolean) => {
    // Sent off when it was told to is a departure, not a set-up that it accepted.
    const counts = what !== "go" || guessed;
    const id = counts
      ? props.onCount(lead, { kind: "set-ups", asked: 1, accepted: guessed ? 0 : 1 })
      : undefined;
    log.log({ kind: "set-up", of: { lead, told: what, guessed } }, id);
  };
  useKeys({ f: () => setKeyed("left"), j: () => setKeyed("right") });
  return (
    <Box
      role="group"
      aria-label="Go or not"
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px", minHeight: 0 }}
    >
      {leads.map((lead) => (
        <Column
          key={lead}
          lead={lead}
          log={log}
          face={face}
          keyed={keyed === lead}
          onTell={(what, guessed) => tell(lead, what, guessed)}
        />
      ))}
    </Box>
  );
}

/** What comes next on a lead: as it was drawn, with what was logged here since. */
function nextOf(log: ExerciseLog, lead: Lead): Told | null {
  const seen = log.seen?.set_ups.find((it) => it.lead === lead);
  if (!seen) return null;
  const known = new Set(log.seen?.events.map((entry) => entry.id));
  const since = exercisesOf(log.events, "set-up").filter(
    ({ entry, event }) => event.of.lead === lead && !known.has(entry.id),
  );
  // After a guess nothing goes; what is drawn after that, the server tells.
  return since.at(-1)?.event.of.guessed ? "wait" : (seen.coming[since.length] ?? null);
}

function Column(props: {
  lead: Lead;
  log: ExerciseLog;
  face: Face;
  keyed: boolean;
  onTell: (told: Told, guessed: boolean) => void;
}) {
  const { lead, log, face, onTell } = props;
  const look = faces[face];
  const [instead, setInstead] = useState<Told | null>(null);
  const seen = log.seen?.set_ups.find((it) => it.lead === lead);
  const drawn = nextOf(log, lead);
  const now = instead ?? drawn ?? "walk-on";
  const tell = (guessed: boolean) => {
    onTell(now, guessed);
    setInstead(null);
  };
  useKeys(props.keyed ? { g: () => tell(false), n: () => tell(true) } : {});
  return (
    <Box
      role="group"
      aria-label={`Set-ups, ${lead} lead`}
      sx={{
        display: "grid",
        gridTemplateRows: "auto auto minmax(96px, 1fr) auto auto",
        gap: "6px",
        borderTop: `8px solid ${look[lead]}`,
        pt: 0.5,
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <Box sx={{ color: look.muted, fontWeight: 650 }}>{lead === "left" ? "Left" : "Right"} lead ends in</Box>
      <Box role="group" aria-label={`It ends in, ${lead} lead`} sx={{ display: "flex", gap: "3px" }}>
        {told.map(([what, name]) => (
          <Toggle
            key={what}
            name={name}
            on={now === what}
            colours={{ text: look.text, line: look.line, on: look.text, onText: look.ground }}
            onPress={() => setInstead(what)}
            sx={{ minHeight: gloveTarget, flex: 1, minWidth: 0, px: 0.25, lineHeight: 1.05 }}
          />
        ))}
      </Box>
      <Box
        component="button"
        type="button"
        onClick={() => tell(false)}
        sx={{
          font: "inherit",
          fontFamily: slab,
          fontWeight: 700,
          fontSize: "1.35rem",
          lineHeight: 1.1,
          border: 0,
          color: white,
          background: look[lead],
          cursor: "pointer",
          touchAction: "manipulation",
        }}
      >
        {doneName[now]}
      </Box>
      <Big face={face} hint={props.keyed ? "N" : undefined} onClick={() => tell(true)}>
        Went by itself
      </Big>
      <Box sx={{ fontSize: "0.95rem", lineHeight: 1.25, color: look.muted }}>
        {seen && (
          <>
            {instead === null && drawn && <b>{toldName[drawn]}. </b>}
            {seen.walk_on} walked on, {seen.wait} waited, {seen.go} sent off; {seen.guessed} by itself.{" "}
            {seen.share_why}
          </>
        )}
      </Box>
    </Box>
  );
}
