import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { curriculumChanged } from "../../api/queries";
import { FormTrouble } from "../../parts/states";
import { day, sideName } from "../../parts/words";
import { ink, inkSoft, marigold, paper, rule } from "../../theme/tokens";
import { RungLink } from "./rung-link";
import { StandardForm } from "./standard-form";
import { newId } from "../../parts/ids";

type Rung = Schemas["RungOut"];

const counted: Record<string, string> = {
  laps: "Counted in laps until soft",
  "nose-ups": "Counted in nose-ups a circle: none is owned",
  "set-ups": "Counted in set-ups accepted without going",
  tries: "Counted in tries: how far each got",
  "rein-share": "Counted in the share of the bridle rein",
  mounts: "Counted in times up and down",
  held: "Counted in seconds off the hand",
  steps: "Counted in steps on end",
};

/** One rung in full: ask, answer, standard, what it needs, faults and where to go, cautions, and how the horses went on it. */
export function RungPage({
  rung,
  book,
  gone,
  horse,
  mayChange,
  onPick,
}: {
  rung: Rung;
  book: Schemas["CurriculumOut"];
  gone?: Schemas["AllGone"];
  horse: string | null;
  mayChange: boolean;
  onPick: (id: string) => void;
}) {
  const client = useQueryClient();
  const [changing, setChanging] = useState(false);
  const [id, setId] = useState(() => newId());
  const teach = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/curriculum/changes/{id}", {
          params: { path: { id } },
          body: { horse_id: horse, change: { kind: rung.taught ? "leave-out" : "take-back", rung: rung.id } },
        }),
      ),
    onSuccess: () => {
      setId(newId());
      curriculumChanged(client);
    },
  });
  const steps = book.steps.filter((s) => s.rung === rung.id);
  return (
    <Box
      component="article"
      aria-labelledby="rung"
      sx={{ background: paper, border: `1px solid ${rule}`, borderTop: `3px solid ${ink}`, p: 2 }}
    >
      <Typography variant="h2" id="rung">
        {rung.id} {rung.name}
      </Typography>
      <Typography sx={{ color: inkSoft }}>
        {rung.sides.map((s) => sideName[s]).join(" and ")} · {rung.gaits.join(", ")}
        {rung.measure.kind !== "reps" && ` · ${counted[rung.measure.kind] ?? ""}`}
        {rung.left && ` · left is ${rung.left}`}
      </Typography>
      <Row name="Ask">{rung.ask.join(" · ")}</Row>
      <Row name="Answer">{rung.answer.join(" and ")}</Row>
      {rung.opening && (
        <Row name="To begin with">
          {rung.opening}: good enough for the rungs above it to begin, while this one is finished
        </Row>
      )}
      <Row name="Owned">
        <b>{rung.standard.words}</b>
        {rung.before.map((b) => (
          <Typography key={b.until} sx={{ color: inkSoft, fontSize: "0.95rem" }}>
            Before {day(b.until)}: {b.standard.words}. What was logged then is judged by that.
          </Typography>
        ))}
      </Row>
      <Row name="Needs">
        {rung.needs.length === 0 && !rung.brake && "nothing first"}
        {rung.needs.map((need) => (
          <Box component="span" key={need} sx={{ mr: 1 }}>
            <RungLink id={need} book={book} onPick={onPick} />
          </Box>
        ))}
        {rung.brake &&
          (rung.needs.length ? "and the one-rein stop at its gait" : "the one-rein stop at its gait")}
      </Row>
      {rung.cautions.length > 0 && (
        <Row name="Caution">
          <Box sx={{ borderLeft: `5px solid ${marigold}`, pl: 1 }}>
            {rung.cautions.map((c) => (
              <div key={c}>{c}</div>
            ))}
          </Box>
        </Row>
      )}
      <Row name="Faults">
        {rung.faults.map((tag) => {
          const fault = book.faults.find((f) => f.tag === tag);
          return (
            fault && (
              <Box key={tag} sx={{ mb: 0.5 }}>
                <b>{fault.name}</b>: {fault.likely}. {fault.remedy}{" "}
                {(rung.remedies[tag] ?? []).slice(0, 3).map((to) => (
                  <Box component="span" key={to} sx={{ mr: 1 }}>
                    <RungLink id={to} book={book} onPick={onPick} />
                  </Box>
                ))}
              </Box>
            )
          );
        })}
      </Row>
      {rung.note && <Row name="Note">{rung.note}</Row>}
      <Row name="Here">
        {steps.map((s) => (
          <div key={s.id}>{howGone(rung.gaits.length > 1 ? s.gait : "", gone?.steps[s.id])}</div>
        ))}
      </Row>
      {mayChange && (
        <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", mt: 1.5 }}>
          <Button variant="contained" onClick={() => setChanging(true)}>
            Change the standard
          </Button>
          <Button variant="outlined" onClick={() => teach.mutate()} disabled={teach.isPending || rung.passed}>
            {rung.taught || rung.passed ? "Leave it out" : "Teach it again"}
          </Button>
        </Box>
      )}
      <FormTrouble error={teach.error} />
      {changing && <StandardForm rung={rung} book={book} horse={horse} onClose={() => setChanging(false)} />}
    </Box>
  );
}

/** "walk: 4 of 7 horses own it, 6 days of work in the middle, half of them 4 to 9". */
function howGone(gait: string, gone?: Schemas["Gone"]): string {
  const name = gait ? `${gait}: ` : "";
  if (!gone) return `${name}no horse asked yet`;
  const horses = gone.asked === 1 ? "1 horse asked" : `${gone.asked} horses asked`;
  if (gone.owned === 0) return `${name}${horses}, none owns it yet`;
  const spread = gone.owned > 2 ? `, half of them ${gone.quarter ?? 0} to ${gone.three_quarters ?? 0}` : "";
  return `${name}${horses}, ${gone.owned} came to own it in ${gone.median ?? 0} days of work${spread}`;
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "76px minmax(0, 1fr)" },
        columnGap: 1.5,
        py: 0.75,
        borderTop: `1px solid ${rule}`,
        mt: 0.25,
      }}
    >
      <Box sx={{ color: inkSoft, fontWeight: 650 }}>{name}</Box>
      <Box sx={{ minWidth: 0 }}>{children}</Box>
    </Box>
  );
}
