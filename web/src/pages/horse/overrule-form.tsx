import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Box from "@mui/material/Box";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { findings, rideChanged } from "../../api/queries";
import { day } from "../../parts/words";
import { ink, inkSoft, oxblood, paper, rule, sageDark } from "../../theme/tokens";
import { bind, FormDialog, Pick } from "../barn/form";
import { newId } from "../../parts/ids";

const calls: [string, string][] = [
  ["advance", "Advance"],
  ["hold", "Hold"],
  ["back", "Go back"],
];

/** A call against the record's, with a reason; the record tells later who was right. */
export function OverruleForm(props: { horse: string; step: Schemas["StepStanding"]; onClose: () => void }) {
  const { horse, step, onClose } = props;
  const client = useQueryClient();
  const own = step.call ?? "hold";
  const [id] = useState(() => newId());
  const [form, setForm] = useState({ made: own === "advance" ? "hold" : "advance", reason: "" });
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/horses/{horse}/overrules/{id}", {
          params: { path: { horse, id } },
          body: { step: step.id, made: form.made as Schemas["Call"], reason: form.reason },
        }),
      ),
    onSuccess: () => {
      rideChanged(client, horse);
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title={`Overrule: ${step.name}`}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <Typography>
        The record says {own}. From today your call holds, and in three weeks it is weighed.
      </Typography>
      <Pick {...field("made", "Your call")} options={calls} />
      <TextField {...field("reason", "Why")} multiline minRows={2} autoFocus />
    </FormDialog>
  );
}

const lookers: [string, string][] = ["vet", "dentist", "farrier", "saddler", "trainer"].map((w) => [w, w]);

/** What was found on a horse that was to be looked at; from then on it may be trained again. */
export function FindingForm({ horse, onClose }: { horse: string; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(() => newId());
  const [form, setForm] = useState({ looked: "vet", found: "" });
  const save = useMutation({
    mutationFn: () =>
      ask(api.PUT("/api/horses/{horse}/findings/{id}", { params: { path: { horse, id } }, body: form })),
    onSuccess: () => {
      rideChanged(client, horse);
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title="What was found"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <Pick {...field("looked", "Who looked")} options={lookers} />
      <TextField {...field("found", "What was found, and what was done")} multiline minRows={3} autoFocus />
    </FormDialog>
  );
}

const verdict = {
  open: { word: "not decided yet", colour: inkSoft },
  right: { word: "the trainer was right", colour: sageDark },
  wrong: { word: "the record was right", colour: oxblood },
} as const;

/** Overrules with what came of them, and what was found. */
export function OverrulesAndFindings({
  horse,
  standing,
}: {
  horse: string;
  standing: Schemas["StandingOut"];
}) {
  const found = useQuery(findings(horse));
  const list = found.data?.items ?? [];
  if (standing.overrules.length === 0 && list.length === 0) return null;
  return (
    <Box component="section" aria-labelledby="overrules">
      <Typography variant="h2" id="overrules" sx={{ mb: 1 }}>
        Overrules and findings
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, borderTop: `2px solid ${ink}` }}>
        {standing.overrules.map((o) => (
          <Box component="li" key={o.id} sx={{ py: 1, borderBottom: `1px solid ${rule}` }}>
            <b>
              {day(o.on)}: {o.who} called {o.made} on {o.name.toLowerCase()}
            </b>{" "}
            against {o.was}.{" "}
            <Box component="span" sx={{ color: verdict[o.verdict].colour, fontWeight: 650 }}>
              {verdict[o.verdict].word}
            </Box>
            <Typography sx={{ color: inkSoft }}>{o.reason}</Typography>
          </Box>
        ))}
        {[...list].reverse().map((f) => (
          <Box component="li" key={f.id} sx={{ py: 1, borderBottom: `1px solid ${rule}`, background: paper }}>
            <b>
              {day(f.on)}: looked at by the {f.looked}
            </b>
            <Typography>{f.found}</Typography>
            <Typography sx={{ color: inkSoft, fontSize: "0.9rem" }}>written by {f.who}</Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
