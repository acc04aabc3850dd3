import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import type { Schemas } from "../../api/client";
import { people, unplaced } from "../../api/queries";
import { handInFor, ofOthers } from "../../offline/outbox";
import type { Logged } from "../../parts/logged-set";
import { onDemand } from "../../parts/on-demand";
import { FormTrouble } from "../../parts/states";
import { many } from "../../parts/words";
import { marigold, paper } from "../../theme/tokens";

type Unplaced = Schemas["UnplacedOut"];

const SetToPlace = onDemand(() => import("./set-to-place").then((m) => m.SetToPlace));

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
          <Suspense fallback={null}>
            {[...sets.entries()].map(([key, items]) => (
              <SetToPlace key={key} items={items} rides={rides} />
            ))}
          </Suspense>
        </Box>
      )}
    </>
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
