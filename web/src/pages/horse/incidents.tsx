import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { incidentsOf, people } from "../../api/queries";
import { bind, FormDialog, Pick } from "../barn/form";
import { newId } from "../../parts/ids";
import { useMe } from "../../parts/me";
import { day } from "../../parts/words";
import { ink, inkSoft, oxblood, paper, rule } from "../../theme/tokens";
import { mayRideWords } from "../../parts/incident-note";

type Kind = Schemas["IncidentKind"];

const kindName: Record<Kind, string> = {
  bucked: "Bucked",
  bolted: "Bolted",
  reared: "Reared",
  fell: "Fell",
  kicked: "Kicked",
  hurt: "Hurt itself",
};
const kinds = Object.entries(kindName) as [Kind, string][];
const mayRide: [Schemas["MayRide"], string][] = [
  ["nobody", "Nobody: back to the ground until someone has looked"],
  ["trainer", "The trainer alone"],
  ["anyone", "Anyone, as before"],
];

/** What went wrong badly with this horse: never hidden, and it says who may ride. */
export function Incidents({ horse }: { horse: string }) {
  const me = useMe();
  const { data } = useQuery(incidentsOf(horse));
  const [writing, setWriting] = useState(false);
  const mayWrite = me.role !== "owner";
  if (!data || (data.items.length === 0 && !mayWrite)) return null;
  return (
    <Box component="section" aria-labelledby="incidents">
      <Typography variant="h2" id="incidents" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        Incidents
      </Typography>
      {data.items.length === 0 && <Typography sx={{ color: inkSoft, my: 1 }}>None so far.</Typography>}
      <Box component="ul" aria-label="Incidents" sx={{ listStyle: "none", p: 0, my: 1 }}>
        {data.items.map((i) => (
          <Box
            component="li"
            key={i.id}
            sx={{
              py: 1,
              pl: 1,
              borderBottom: `1px solid ${rule}`,
              borderLeft: `6px solid ${oxblood}`,
              background: paper,
            }}
          >
            <b>
              {day(i.happened_on)}: {kindName[i.kind].toLowerCase()}, {i.rider} up
            </b>
            <Typography>{i.before}</Typography>
            {i.hurt && <Typography>Hurt: {i.hurt}</Typography>}
            <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>
              {mayRideWords[i.may_ride]} Written by {i.made_by}
            </Typography>
          </Box>
        ))}
      </Box>
      {mayWrite && (
        <Button variant="outlined" onClick={() => setWriting(true)}>
          Write down an incident
        </Button>
      )}
      {writing && <IncidentForm horse={horse} me={me.id} onClose={() => setWriting(false)} />}
    </Box>
  );
}

function IncidentForm({ horse, me, onClose }: { horse: string; me: string; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(() => newId());
  const riders = useQuery(people()).data?.items ?? [];
  const [form, setForm] = useState({
    kind: "bucked",
    rider_id: me,
    before: "",
    hurt: "",
    may_ride: "nobody",
  });
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/horses/{horse}/incidents/{id}", {
          params: { path: { horse, id } },
          body: { ...form, kind: form.kind as Kind, may_ride: form.may_ride as Schemas["MayRide"] },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: incidentsOf(horse).queryKey });
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title="What happened"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <Pick {...field("kind", "It")} options={kinds} />
      <Pick
        {...field("rider_id", "Who was up")}
        options={riders.map((p): [string, string] => [p.id, p.name])}
      />
      <TextField
        {...field("before", "What came before: place, gait, what was asked, what it saw")}
        multiline
        minRows={3}
        autoFocus
      />
      <TextField {...field("hurt", "Who or what was hurt, if anyone")} />
      <Pick {...field("may_ride", "Who may ride it next")} options={mayRide} />
    </FormDialog>
  );
}
