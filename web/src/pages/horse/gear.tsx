import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { horseGear } from "../../api/queries";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { inkSoft, oxblood, rule } from "../../theme/tokens";
import { newId } from "../../parts/ids";

type Kind = Schemas["GearKind"];
const kinds: Record<Kind, string> = {
  bit: "Bit",
  bosal: "Bosal",
  saddle: "Saddle",
  boots: "Boots",
  protective: "Protective gear",
  spurs: "Spurs",
};

/** What a horse is ridden in. */
export function Gear({ horse }: { horse: string }) {
  const me = useMe();
  const { data } = useQuery(horseGear(horse));
  const [open, setOpen] = useState<Schemas["GearOut"] | "new" | null>(null);
  return (
    <Box component="section" aria-labelledby="gear">
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2 }}>
        <Typography variant="h2" id="gear" sx={{ flex: 1 }}>
          Gear
        </Typography>
        {me.role !== "owner" && <Button onClick={() => setOpen("new")}>Add gear</Button>}
      </Box>
      {data?.items.length === 0 && (
        <Typography sx={{ color: inkSoft }}>
          Nothing noted yet. A bit needs the days on which mouth and teeth were seen.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {data?.items
          .filter((g) => !g.archived)
          .map((g) => (
            <Box
              component="li"
              key={g.id}
              sx={{ borderTop: `1px solid ${rule}`, py: 0.75, display: "flex", gap: 1, alignItems: "center" }}
            >
              <Box sx={{ flex: 1 }}>
                <b>{g.name}</b>{" "}
                <Box component="span" sx={{ color: inkSoft }}>
                  {kinds[g.kind].toLowerCase()}
                  {g.mouthpiece && g.mouthpiece !== "bitless" && `, ${g.mouthpiece}`} since {day(g.since)},{" "}
                  {g.days === 1 ? "1 day" : `${g.days} days`} ridden
                  {g.teeth_seen && `; teeth seen ${day(g.teeth_seen)}`}
                </Box>
                {g.note && <div>{g.note}</div>}
              </Box>
              {me.role !== "owner" && (
                <Button size="small" aria-label={`Change ${g.name}`} onClick={() => setOpen(g)}>
                  Change
                </Button>
              )}
            </Box>
          ))}
      </Box>
      {open && <GearForm horse={horse} gear={open === "new" ? null : open} onClose={() => setOpen(null)} />}
    </Box>
  );
}

function GearForm(props: { horse: string; gear: Schemas["GearOut"] | null; onClose: () => void }) {
  const { horse, gear } = props;
  const me = useMe();
  const client = useQueryClient();
  const [id] = useState(() => gear?.id ?? newId());
  const [it, setIt] = useState({
    kind: gear?.kind ?? ("bit" as Kind),
    name: gear?.name ?? "",
    mouthpiece: gear?.mouthpiece ?? ("snaffle" as Schemas["Mouthpiece"]),
    since: gear?.since ?? me.today,
    mouth_seen: gear?.mouth_seen ?? "",
    teeth_seen: gear?.teeth_seen ?? "",
    note: gear?.note ?? "",
  });
  const save = useMutation({
    mutationFn: (archived: boolean) =>
      ask(
        api.PUT("/api/horses/{horse}/gear/{id}", {
          params: { path: { horse, id } },
          body: {
            ...it,
            version: gear?.version ?? null,
            mouthpiece: it.kind === "bit" ? it.mouthpiece : it.kind === "bosal" ? "bitless" : null,
            mouth_seen: it.mouth_seen || null,
            teeth_seen: it.teeth_seen || null,
            archived,
          },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: horseGear(horse).queryKey });
      props.onClose();
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
  const field = (name: keyof typeof it, label: string, type = "text") => (
    <TextField
      label={label}
      type={type}
      value={it[name]}
      onChange={(e) => setIt({ ...it, [name]: e.target.value })}
      error={!!refused?.field(name)}
      helperText={refused?.field(name)}
      slotProps={type === "date" ? { inputLabel: { shrink: true } } : undefined}
    />
  );
  return (
    <Dialog open onClose={props.onClose} aria-labelledby="gear-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Box
          component="form"
          onSubmit={(e) => (e.preventDefault(), save.mutate(false))}
          sx={{ display: "grid", gap: 1.75 }}
        >
          <Typography variant="h2" id="gear-title">
            {gear ? gear.name : "A piece of gear"}
          </Typography>
          <TextField
            select
            label="Kind"
            value={it.kind}
            disabled={!!gear}
            onChange={(e) => setIt({ ...it, kind: e.target.value as Kind })}
          >
            {Object.entries(kinds).map(([kind, name]) => (
              <MenuItem key={kind} value={kind}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          {field("name", "Name")}
          {it.kind === "bit" && (
            <TextField
              select
              label="What it does"
              value={it.mouthpiece}
              disabled={!!gear}
              onChange={(e) => setIt({ ...it, mouthpiece: e.target.value as typeof it.mouthpiece })}
              error={!!refused?.field("mouthpiece")}
              helperText={refused?.field("mouthpiece")}
            >
              <MenuItem value="snaffle">Snaffle</MenuItem>
              <MenuItem value="leverage">Leverage, with a curb strap</MenuItem>
            </TextField>
          )}
          {field("since", "Since", "date")}
          {it.kind === "bit" && field("mouth_seen", "Mouth looked into on", "date")}
          {it.kind === "bit" && field("teeth_seen", "Teeth seen by vet or dentist on", "date")}
          {field("note", "Note")}
          {!refused?.problem.errors?.length && <FormTrouble error={save.error} />}
          {refused?.field("archived") && (
            <Box role="alert" sx={{ color: oxblood, fontWeight: 650 }}>
              Not put away: {refused.field("archived")}.
            </Box>
          )}
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" disabled={save.isPending}>
              Save
            </Button>
            {gear && (
              <Button onClick={() => save.mutate(true)} disabled={save.isPending}>
                Put away
              </Button>
            )}
            <Button onClick={props.onClose}>Cancel</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
