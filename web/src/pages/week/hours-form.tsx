import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { hours as hoursQuery } from "../../api/queries";
import { numbers } from "../../parts/numbers";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { placeName } from "../../parts/words";
import { inkSoft, rule, sageDark } from "../../theme/tokens";
import { hoursText, typedHours, weekdays } from "./hours";
import type { Week } from "./use-week";

/** What weeks are made of: people's hours, places, the cattle's days, and rides agreed on. Each line is saved by itself. */
export function HoursForm({ week, onClose }: { week: Week; onClose: () => void }) {
  const kept = useQuery(hoursQuery);
  return (
    <Dialog open onClose={onClose} aria-labelledby="hours" fullWidth maxWidth="md">
      <DialogContent>
        <Typography variant="h2" id="hours">
          Hours and places
        </Typography>
        {kept.error && (
          <PageTrouble
            title="Couldn't load the hours"
            detail={kept.error.message}
            again={() => void kept.refetch()}
          />
        )}
        {!kept.data && !kept.error && <PageLoading what="the hours" />}
        {kept.data && (
          <>
            <Section
              title="Who rides when"
              lead="Without hours: Monday to Saturday, mornings and afternoons."
            >
              {week.riders.map((r) => (
                <Person
                  key={r.id}
                  id={r.id}
                  name={r.name}
                  hours={kept.data.people.find((p) => p.person_id === r.id)?.hours ?? []}
                />
              ))}
            </Section>
            <Section title="Places" lead="Rides at a time, and when it is open.">
              {week.places.map((p) => (
                <PlaceRow
                  key={p.place}
                  place={p.place}
                  kept={kept.data.places.find((x) => x.place === p.place)}
                  at={p.at_once}
                />
              ))}
            </Section>
            <Section title="Cattle" lead="Works that they have in them on each day.">
              <Cattle works={kept.data.cattle} />
            </Section>
            <Section title="Rides a week" lead="As agreed on with the owner; empty where nothing was.">
              {week.horses.map((h) => (
                <Agreed
                  key={h.id}
                  id={h.id}
                  name={h.name}
                  kept={kept.data.agreed.find((a) => a.horse_id === h.id)}
                />
              ))}
            </Section>
          </>
        )}
        <Button variant="contained" onClick={onClose} sx={{ mt: 2 }}>
          Done
        </Button>
      </DialogContent>
    </Dialog>
  );
}

function Section({ title, lead, children }: { title: string; lead: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mt: 2 }}>
      <Typography variant="h3">{title}</Typography>
      <Typography sx={{ color: inkSoft, mb: 1 }}>{lead}</Typography>
      {children}
    </Box>
  );
}

/** A line that is saved by itself; what the server says stands under it. */
function Row(props: { name: string; save: () => Promise<unknown>; children: ReactNode }) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: props.save,
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: hoursQuery.queryKey });
      void client.invalidateQueries({ queryKey: ["week"] });
    },
  });
  const told = save.error instanceof Refused ? (save.error.problem.errors ?? []) : [];
  return (
    <Box
      component="form"
      aria-label={props.name}
      noValidate
      onSubmit={(e) => (e.preventDefault(), save.mutate())}
      sx={{ display: "grid", gap: 1, borderTop: `1px solid ${rule}`, py: 1 }}
    >
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Box sx={{ width: 130, fontWeight: 650 }}>{props.name}</Box>
        {props.children}
        <Button type="submit" variant="outlined" disabled={save.isPending}>
          Save
        </Button>
        {save.isSuccess && <Box sx={{ color: sageDark, fontWeight: 600 }}>Saved</Box>}
      </Box>
      {told.length === 0 && <FormTrouble error={save.error} />}
      {told.map((t) => (
        <FormTrouble key={t.field + t.detail} error={new Error(t.detail)} />
      ))}
    </Box>
  );
}

function Person({ id, name, hours }: { id: string; name: string; hours: Schemas["HoursIn"][] }) {
  const [days, setDays] = useState(() => weekdays.map((_, n) => hoursText(n, hours)));
  return (
    <Row
      name={name}
      save={() =>
        ask(
          api.PUT("/api/people/{id}/hours", {
            params: { path: { id } },
            body: { hours: days.flatMap((text, n) => typedHours(n, text)) },
          }),
        )
      }
    >
      {weekdays.map((label, n) => (
        <TextField
          key={label}
          label={label}
          value={days[n]}
          placeholder="7-12, 14-17"
          onChange={(e) => setDays(days.map((d, k) => (k === n ? e.target.value : d)))}
          sx={{ width: 205 }}
        />
      ))}
    </Row>
  );
}

function PlaceRow(props: { place: Schemas["Place"]; kept?: Schemas["PlaceOut"]; at: number }) {
  const [form, setForm] = useState({
    at_once: String(props.kept?.at_once ?? props.at),
    from: props.kept?.from ?? "06:00",
    to: props.kept?.to ?? "20:00",
  });
  const field = (name: keyof typeof form, label: string) => (
    <TextField
      label={label}
      value={form[name]}
      onChange={(e) => setForm({ ...form, [name]: e.target.value })}
      sx={{ width: 120 }}
    />
  );
  return (
    <Row
      name={placeName[props.place]}
      save={async () => {
        const { at_once } = numbers({ at_once: form.at_once });
        return ask(
          api.PUT("/api/places/{place}", {
            params: { path: { place: props.place } },
            body: { at_once: at_once ?? 0, from: form.from, to: form.to },
          }),
        );
      }}
    >
      {field("at_once", "At a time")}
      {field("from", "From")}
      {field("to", "To")}
    </Row>
  );
}

function Cattle({ works }: { works: number[] }) {
  const [days, setDays] = useState(() => weekdays.map((_, n) => String(works[n] ?? 0)));
  return (
    <Row
      name="Works"
      save={async () => {
        const works = days.map((text) => numbers({ works: text }).works ?? 0);
        return ask(api.PUT("/api/cattle-days", { body: { works } }));
      }}
    >
      {weekdays.map((label, n) => (
        <TextField
          key={label}
          label={label}
          value={days[n]}
          onChange={(e) => setDays(days.map((d, k) => (k === n ? e.target.value : d)))}
          sx={{ width: 72 }}
        />
      ))}
    </Row>
  );
}

function Agreed({ id, name, kept }: { id: string; name: string; kept?: Schemas["AgreedOut"] }) {
  const [form, setForm] = useState({ least: String(kept?.least ?? ""), most: String(kept?.most ?? "") });
  return (
    <Row
      name={name}
      save={async () =>
        ask(api.PUT("/api/horses/{id}/rides-a-week", { params: { path: { id } }, body: numbers(form) }))
      }
    >
      <TextField
        label="At least"
        value={form.least}
        onChange={(e) => setForm({ ...form, least: e.target.value })}
        sx={{ width: 100 }}
      />
      <TextField
        label="At most"
        value={form.most}
        onChange={(e) => setForm({ ...form, most: e.target.value })}
        sx={{ width: 100 }}
      />
    </Row>
  );
}
