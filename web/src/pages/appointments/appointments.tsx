import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { appointments, horses, people } from "../../api/queries";
import { useMe } from "../../parts/me";
import { Empty, FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import {
  ink,
  inkSoft,
  marigold,
  marigoldDark,
  oxblood,
  paper,
  rule,
  sageDark,
  slab,
} from "../../theme/tokens";
import { AppointmentForm, type Appointment } from "./appointment-form";
import { CalendarIn } from "./calendar-in";
import { appointmentsChanged } from "./changed";
import { kindName } from "./kinds";
import { inWords } from "./repeats";

/** What stands in the next months besides rides, and how horses will stand at their shows. */
export function Appointments() {
  const me = useMe();
  const { data, error, refetch } = useQuery(appointments);
  const string = useQuery(horses());
  const staff = useQuery(people());
  const [form, setForm] = useState<Appointment | "new" | null>(null);
  if (error && !data)
    return (
      <PageTrouble
        title="Couldn't load the appointments"
        detail={error.message}
        again={() => void refetch()}
      />
    );
  if (!data) return <PageLoading what="appointments" />;
  const names = new Map(
    [...(string.data?.items ?? []), ...(staff.data?.items ?? [])].map((x) => [x.id, x.name]),
  );
  const mayChange = me.role !== "owner";
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, flexWrap: "wrap", mb: 2 }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">Appointments</Typography>
          <Typography sx={{ color: inkSoft }}>
            The next three months. The{" "}
            <Link to="/week" style={{ color: ink, fontWeight: 650 }}>
              week
            </Link>{" "}
            is planned around them.
          </Typography>
        </Box>
        {mayChange && (
          <>
            <Button variant="contained" onClick={() => setForm("new")}>
              Add an appointment
            </Button>
            <CalendarIn />
          </>
        )}
      </Box>
      {data.items.length === 0 && (
        <Empty>
          Nothing stands here yet. Add the farrier, the vet, a show or a lay-up, or read in the calendar that
          you kept so far.
        </Empty>
      )}
      <Box component="ol" aria-label="Appointments" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {data.items.map((a) => (
          <Row key={a.id} of={a} names={names} onChange={mayChange ? () => setForm(a) : null} />
        ))}
      </Box>
      {form && (
        <AppointmentForm
          of={form === "new" ? null : form}
          today={me.today}
          onClose={() => setForm(null)}
          onSaved={() => setForm(null)}
        />
      )}
    </>
  );
}

function Row(props: { of: Appointment; names: Map<string, string>; onChange: (() => void) | null }) {
  const { of, names } = props;
  const client = useQueryClient();
  const drop = useMutation({
    mutationFn: () => ask(api.DELETE("/api/appointments/{id}", { params: { path: { id: of.id } } })),
    onSuccess: () => appointmentsChanged(client),
  });
  const who = [...of.horses, ...of.people].map((id) => names.get(id)).filter(Boolean);
  const later = of.comes.slice(1, 4).map(day).join(" · ");
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", sm: "132px minmax(0, 1fr) auto" },
        columnGap: 2,
        rowGap: 0.5,
        borderTop: `1px solid ${rule}`,
        py: 1.25,
        alignItems: "start",
      }}
    >
      <Box>
        <Box sx={{ fontFamily: slab, fontWeight: 650, fontSize: "1.12rem" }}>
          {of.comes[0] && day(of.comes[0])}
        </Box>
        <Box sx={{ color: inkSoft }}>
          {of.days > 1 ? `${of.days} days` : of.from === "00:00" ? "all day" : `${of.from}–${of.to}`}
        </Box>
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ display: "flex", gap: 1, alignItems: "baseline", flexWrap: "wrap" }}>
          <Box component="span" sx={{ border: `1.5px solid ${ink}`, px: 0.75, fontWeight: 650 }}>
            {kindName[of.kind]}
          </Box>
          <b>{of.title}</b>
        </Box>
        <Typography>{who.join(", ")}</Typography>
        {of.rule && (
          <Typography sx={{ color: inkSoft }}>
            {inWords(of.rule)}
            {later && `: then ${later}`}
          </Typography>
        )}
        <FormTrouble error={drop.error} />
        {of.outlook.map((h) => (
          <Outlook key={h.horse_id} of={h} />
        ))}
      </Box>
      {props.onChange && (
        <Box sx={{ display: "flex", gap: 1 }}>
          <Button variant="outlined" onClick={props.onChange} aria-label={`Change ${of.title}`}>
            Change
          </Button>
          <Button disabled={drop.isPending} onClick={() => drop.mutate()} aria-label={`Remove ${of.title}`}>
            Remove
          </Button>
        </Box>
      )}
    </Box>
  );
}

const outlook: Record<Schemas["Outlook"], { says: string; colour: string }> = {
  owned: { says: "owned", colour: sageDark },
  "on-course": { says: "on course", colour: sageDark },
  close: { says: "in the balance", colour: marigoldDark },
  unlikely: { says: "unlikely", colour: oxblood },
  "not-in-sight": { says: "not in sight", colour: oxblood },
};

/** How one horse will stand at a show. */
function Outlook({ of }: { of: Schemas["HorseOutlook"] }) {
  return (
    <Box
      sx={{
        background: paper,
        border: `1px solid ${rule}`,
        borderLeft: `6px solid ${of.warning ? marigold : sageDark}`,
        px: 1.5,
        py: 0.75,
        mt: 0.75,
        maxWidth: 720,
      }}
    >
      <Link to={`/horses/${of.horse_id}`} style={{ color: ink, fontWeight: 700 }}>
        {of.horse_name}
      </Link>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {of.wants.map((w) => (
          <Box
            component="li"
            key={w.step}
            sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 112px 48px", gap: 1 }}
          >
            <span>{w.name}</span>
            <Box component="span" sx={{ color: outlook[w.outlook].colour, fontWeight: 650 }}>
              {outlook[w.outlook].says}
            </Box>
            <Box component="span" sx={{ textAlign: "right", fontWeight: 650 }}>
              {w.outlook !== "owned" && w.chance != null ? `${w.chance}%` : ""}
            </Box>
          </Box>
        ))}
      </Box>
      {of.warning && <Typography sx={{ mt: 0.5 }}>{of.warning}</Typography>}
    </Box>
  );
}
