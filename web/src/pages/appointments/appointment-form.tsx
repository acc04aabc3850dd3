import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";
import { curriculum, horses, people } from "../../api/queries";
import { bind, FormDialog, Pick } from "../barn/form";
import { appointmentsChanged } from "./changed";
import { kindName } from "./kinds";
import { pickOf, ruleOf, units } from "./repeats";
import { newId } from "../../parts/ids";

export type Appointment = Schemas["AppointmentOut"];
type Choice = { id: string; name: string };

/** Every step with the rung that it is of. */
function stepsOf(book: Schemas["CurriculumOut"] | undefined): Choice[] {
  return (book?.steps ?? []).map((step) => ({ id: step.id, name: `${step.rung} ${step.name}` }));
}

/** Adds or changes an appointment. */
export function AppointmentForm(props: {
  of: Appointment | null;
  today: string;
  onClose: () => void;
  onSaved: () => void;
}) {
  const { of } = props;
  const client = useQueryClient();
  const [id] = useState(() => of?.id ?? newId());
  const string = useQuery(horses());
  const staff = useQuery(people());
  const book = useQuery(curriculum);
  const [form, setForm] = useState({
    kind: of?.kind ?? "farrier",
    title: of?.title ?? "",
    day: of?.day ?? props.today,
    days: String(of?.days ?? 1),
    from: of?.from ?? "09:00",
    to: of?.to ?? "11:00",
    ...pickOf(of?.rule),
  });
  const [takes, setTakes] = useState({ horses: of?.horses ?? [], people: of?.people ?? [] });
  const [wants, setWants] = useState(of?.wants ?? []);
  const whole = form.kind === "show" || form.kind === "lay-up";
  const save = useMutation({
    mutationFn: async () =>
      ask(
        api.PUT("/api/appointments/{id}", {
          params: { path: { id } },
          body: {
            version: of?.version ?? 0,
            kind: form.kind,
            title: form.title,
            day: form.day,
            days: whole ? (numbers({ days: form.days }).days ?? 0) : 1,
            from: whole ? "00:00" : form.from,
            to: whole ? "24:00" : form.to,
            rule: ruleOf(form),
            skipped: of?.skipped ?? [],
            wants: form.kind === "show" ? wants : [],
            ...takes,
          },
        }),
      ),
    onSuccess: () => {
      appointmentsChanged(client);
      props.onSaved();
    },
  });
  const field = bind(form, setForm, save.error);
  const told = (name: string) => (save.error instanceof Refused ? save.error.field(name) : undefined);
  const some = (list: Choice[], ids: string[]) => list.filter((c) => ids.includes(c.id));
  const all = { horses: string.data?.items ?? [], people: staff.data?.items ?? [] };
  return (
    <FormDialog
      title={of ? "Change the appointment" : "Add an appointment"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={props.onClose}
    >
      <Pick {...field("kind", "What")} options={Object.entries(kindName)} />
      <TextField {...field("title", "In a few words")} />
      <TextField {...field("day", "Day")} type="date" slotProps={{ inputLabel: { shrink: true } }} />
      {whole ? (
        <TextField {...field("days", "Days in a row")} slotProps={{ htmlInput: { inputMode: "numeric" } }} />
      ) : (
        <>
          <TextField {...field("from", "From")} />
          <TextField {...field("to", "To")} />
        </>
      )}
      <Several
        label="Horses"
        options={all.horses}
        value={some(all.horses, takes.horses)}
        onChange={(ids) => setTakes({ ...takes, horses: ids })}
        told={told("horses")}
      />
      <Several
        label="People whose time it takes"
        options={all.people}
        value={some(all.people, takes.people)}
        onChange={(ids) => setTakes({ ...takes, people: ids })}
      />
      {form.kind === "show" && (
        <Several
          label="What the show asks of them"
          options={stepsOf(book.data)}
          value={some(stepsOf(book.data), wants)}
          onChange={setWants}
          told={told("wants")}
        />
      )}
      <Pick {...field("unit", "Repeats")} options={units} />
      {(form.unit === "WEEKLY" || form.unit === "MONTHLY") && (
        <>
          <TextField
            {...field("every", form.unit === "WEEKLY" ? "Weeks" : "Months")}
            error={!!told("rule")}
            helperText={told("rule")}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
          />
          <TextField
            {...field("until", "Until (or leave empty)")}
            type="date"
            slotProps={{ inputLabel: { shrink: true } }}
          />
        </>
      )}
      {form.unit === "rule" && <TextField {...field("rule", "Rule")} placeholder="FREQ=MONTHLY;BYDAY=1FR" />}
    </FormDialog>
  );
}

function Several(props: {
  label: string;
  options: Choice[];
  value: Choice[];
  onChange: (ids: string[]) => void;
  told?: string;
}) {
  return (
    <Autocomplete
      multiple
      disableCloseOnSelect
      options={props.options}
      value={props.value}
      getOptionLabel={(c) => c.name}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, picked) => props.onChange(picked.map((c) => c.id))}
      renderInput={(field) => (
        <TextField {...field} label={props.label} error={!!props.told} helperText={props.told} />
      )}
    />
  );
}
