import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ride as rideQuery, today } from "../api/queries";
import { discard, exported, handIn, sendInstead } from "../offline/outbox";
import { oxblood, paper } from "../theme/tokens";
import { download } from "./download";
import { newId } from "./ids";
import { LoggedSet, type Logged } from "./logged-set";
import type { LogItem, RefusedLog } from "./refused-sets";
import { day, many } from "./words";

const logged = (item: LogItem): Logged =>
  item.kind === "log" ? { kind: "rep", body: item.body } : { kind: "count", body: item.body };

/** Asks of one set that the server did not take: shown whole, to be put on another ride, handed in, saved, and only then discarded. */
export function RefusedSet({ refused }: { refused: RefusedLog[] }) {
  const first = refused[0];
  const [saved, setSaved] = useState(false);
  const [sure, setSure] = useState(false);
  const meant = useQuery({ ...rideQuery(first?.item.ride ?? ""), enabled: !!first, retry: false }).data;
  const rides = useQuery(today).data?.rides ?? [];
  if (!first) return null;
  const { why } = first;
  const moveTo = (ride: string) => {
    // A set belongs to one ride: on another it is a set of its own.
    const set = ride === first.item.ride ? first.item.body.set.id : newId();
    const moved = ({ item }: RefusedLog) =>
      ({
        ...item,
        ride,
        // A count goes by the id of its set.
        rep: item.kind === "count" ? set : item.rep,
        body: { ...item.body, set: { ...item.body.set, id: set } },
      }) as LogItem;
    sendInstead(refused, refused.map(moved));
  };
  return (
    <Box
      role="group"
      aria-label="Couldn't save"
      sx={{ background: paper, borderLeft: `6px solid ${oxblood}`, p: 1.5, display: "grid", gap: 1 }}
    >
      <span>
        <b>
          Couldn't save {many(refused.length, "ask")}
          {meant ? ` of ${meant.horse_name}, ${day(meant.date)}` : " of a ride that is not here any more"}.
        </b>{" "}
        {why}.
      </span>
      <LoggedSet items={refused.map((r) => logged(r.item))} />
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <TextField
          select
          size="small"
          label="Put them on another ride"
          value=""
          onChange={(e) => moveTo(e.target.value)}
          sx={{ width: 300, maxWidth: "100%" }}
        >
          {rides.map(({ ride }) => (
            <MenuItem key={ride.id} value={ride.id}>
              {ride.horse_name}, {ride.rider_name}
            </MenuItem>
          ))}
          {rides.length === 0 && <MenuItem disabled>No rides today</MenuItem>}
        </TextField>
        <Button
          variant="outlined"
          onClick={() =>
            sendInstead(
              refused,
              refused.flatMap((r) => handIn(r) ?? []),
            )
          }
        >
          Hand in to be placed
        </Button>
        <Button
          onClick={() => {
            download(exported(refused), "not-saved.json");
            setSaved(true);
          }}
        >
          Save as a file
        </Button>
        {saved && (
          <Button color="error" onClick={() => (sure ? refused.forEach(discard) : setSure(true))}>
            {sure ? "Discard them for good" : "Discard"}
          </Button>
        )}
      </Box>
    </Box>
  );
}
