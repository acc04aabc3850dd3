import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { horseRides, people, unplaced } from "../../api/queries";
import { handInFor, ofOthers } from "../../offline/outbox";
import { LoggedSet, type Logged } from "../../parts/logged-set";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { day, many, moment } from "../../parts/words";
import { inkSoft, marigold, paper } from "../../theme/tokens";

type Unplaced = Schemas["UnplacedOut"];

/** What was logged and found no ride, for the trainer to put on one; and what others left on this device. */
export function ToBePlaced({ rides }: { rides: Schemas["TodayRide"][] }) {
  const list = useQuery(unplaced);
  const sets = new Map<string, Unplaced[]>();
  for (const u of list.data?.items ?? []) {
    const set = (u.body as unknown as Logged["body"]).set.id;
    const key = `${u.ride_id} ${set}`;
    sets.set(key, [...(sets.get(key) ?? []), u]);
  }
  return (
    <>
      <LeftHere onHandedIn={() => void list.refetch()} />
      {sets.size > 0 && (
        <Box component="section" aria-label="To be placed" sx={{ mb: 3, display: "grid", gap: 1 }}>
          <Typography variant="h2">To be placed</Typography>
          {[...sets.entries()].map(([key, items]) => (
            <SetToPlace key={key} items={items} rides={rides} />
          ))}
        </Box>
      )}
    </>
  );
}

/** Why it found no ride, as a sentence. */
function whyNot(first: Unplaced, today: string): string {
  if (first.ride_on && first.ride_on > today) return `The ride is on ${day(first.ride_on)} now.`;
  return `${first.why.charAt(0).toUpperCase()}${first.why.slice(1)}.`;
}

function SetToPlace({ items, rides }: { items: Unplaced[]; rides: Schemas["TodayRide"][] }) {
  const client = useQueryClient();
  const me = useMe();
  const [sure, setSure] = useState(false);
  const first = items[0];
  const before =
    useQuery({ ...horseRides(first?.horse_id ?? ""), enabled: !!first?.horse_id }).data?.items ?? [];
  const ids = items.map((u) => u.id);
  const settled = () => void client.invalidateQueries();
  const place = useMutation({
    mutationFn: (ride_id: string) => ask(api.POST("/api/unplaced/place", { body: { ids, ride_id } })),
    onSuccess: settled,
  });
  const discard = useMutation({
    mutationFn: () => ask(api.POST("/api/unplaced/discard", { body: { ids } })),
    onSuccess: settled,
  });
  if (!first) return null;
  const of = rides.map((r) => r.ride).filter((r) => !first.horse_id || r.horse_id === first.horse_id);
  const older = before.filter((r) => r.state !== "planned" && of.every((o) => o.id !== r.id)).slice(0, 8);
  const choices = [...of, ...older];
  const asked = items.flatMap((u) => (u.body as { asked_at?: string | null }).asked_at ?? [])[0];
  return (
    <Box
      sx={{ background: paper, borderLeft: `6px solid ${marigold}`, p: 1.5, display: "grid", gap: 1 }}
      role="group"
      aria-label={`${many(items.length, "ask")} to be placed`}
    >
      <span>
        <b>
          {many(items.length, "ask")} of {first.horse_name ?? "a ride that is not here"}
        </b>{" "}
        by {first.person}
        {asked && `, ${moment(asked)}`}.{" "}
        <Box component="span" sx={{ color: inkSoft }}>
          {whyNot(first, me.today)}
        </Box>
      </span>
      <LoggedSet items={items.map((u) => ({ kind: u.kind, body: u.body }) as unknown as Logged)} />
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <TextField
          select
          size="small"
          label="Put them on"
          value=""
          disabled={place.isPending || choices.length === 0}
          onChange={(e) => place.mutate(e.target.value)}
          helperText={choices.length === 0 ? "Add a ride of this horse first." : undefined}
          sx={{ width: 340, maxWidth: "100%" }}
        >
          {choices.map((r) => (
            <MenuItem key={r.id} value={r.id}>
              {r.horse_name}, {day(r.date)}, {r.rider_name}
            </MenuItem>
          ))}
        </TextField>
        <Button
          color="error"
          disabled={discard.isPending}
          onClick={() => (sure ? discard.mutate() : setSure(true))}
        >
          {sure ? "Discard them for good" : "Discard"}
        </Button>
      </Box>
      {place.data && place.data.refused.length > 0 && (
        <FormTrouble error={new Error(place.data.refused[0]?.why)} />
      )}
      <FormTrouble error={place.error ?? discard.error} />
    </Box>
  );
}

/** Asks that another person logged on this device and that were never sent: a trainer hands them in as theirs. */
function LeftHere({ onHandedIn }: { onHandedIn: () => void }) {
  const [left, setLeft] = useState(ofOthers);
  const here = useQuery({ ...people(), enabled: left.size > 0 }).data?.items ?? [];
  const gone = useQuery({ ...people(true), enabled: left.size > 0 }).data?.items ?? [];
  const hand = useMutation({
    mutationFn: ([person, items]: [string, Parameters<typeof handInFor>[1]]) => handInFor(person, items),
    onSettled: () => {
      setLeft(ofOthers());
      onHandedIn();
    },
  });
  const known = [...left].flatMap(([person, items]) => {
    const name = [...here, ...gone].find((p) => p.id === person)?.name;
    const logs = items.filter((i) => i.kind === "log" || i.kind === "count");
    return name && logs.length > 0 ? [{ person, name, items: logs }] : [];
  });
  return (
    <>
      {known.map(({ person, name, items }) => (
        <Box
          key={person}
          role="status"
          sx={{
            background: paper,
            borderLeft: `6px solid ${marigold}`,
            p: 1.5,
            mb: 2,
            display: "flex",
            gap: 2,
            flexWrap: "wrap",
            alignItems: "center",
          }}
        >
          <span>
            <b>
              {many(items.length, "ask")} by {name} {items.length === 1 ? "is" : "are"} on this device, not
              sent.
            </b>{" "}
            They go when {name} signs in here; or hand them in as theirs.
          </span>
          <Button variant="outlined" disabled={hand.isPending} onClick={() => hand.mutate([person, items])}>
            Hand in as {name}'s
          </Button>
          <FormTrouble error={hand.error} />
        </Box>
      ))}
    </>
  );
}
