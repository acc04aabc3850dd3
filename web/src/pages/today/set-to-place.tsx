import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { horseRides } from "../../api/queries";
import { LoggedSet, type Logged } from "../../parts/logged-set";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { day, many, moment } from "../../parts/words";
import { inkSoft, marigold, paper } from "../../theme/tokens";

type Unplaced = Schemas["UnplacedOut"];

/** Why it found no ride, as a sentence. */
function whyNot(first: Unplaced, today: string): string {
  if (first.ride_on && first.ride_on > today) return `The ride is on ${day(first.ride_on)} now.`;
  return `${first.why.charAt(0).toUpperCase()}${first.why.slice(1)}.`;
}

/** What was logged in one set and found no ride, and the rides that it can be put on. */
export function SetToPlace({ items, rides }: { items: Unplaced[]; rides: Schemas["TodayRide"][] }) {
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
