import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { cattleDraw, herd } from "../../api/queries";
import { mannerName } from "../../parts/cattle-words";
import { Panel } from "../../parts/panel";
import { Empty, FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { capital, many } from "../../parts/words";
import { ink, inkSoft, marigold, oxblood, rule, slab } from "../../theme/tokens";
import { swapped, visitsOf } from "./goes";

type Go = Schemas["GoOut"];

/** What the changes by hand cost, in words. */
export function costWords(cost: number | null | undefined): string {
  if (cost === null || cost === undefined) return "It breaks a rule now: see below.";
  if (cost < 0.005) return "It is as good as the best.";
  return `It is ${cost.toFixed(2)} of a go on a fresh, honest cow under the best.`;
}

/** Which cow for which horse today, in order, and why; changed by hand with what that costs. */
export function TodaysDraw() {
  const client = useQueryClient();
  const draw = useQuery(cattleDraw);
  const cows = useQuery(herd).data?.items ?? [];
  const keep = useMutation({
    mutationFn: (goes: Schemas["DrawIn"]["goes"]) =>
      ask(api.PUT("/api/cattle-draw", { body: { version: draw.data?.version ?? 0, goes } })),
    onSuccess: (now) => client.setQueryData(cattleDraw.queryKey, now),
  });
  const forget = useMutation({
    mutationFn: () => ask(api.DELETE("/api/cattle-draw")),
    onSuccess: () => client.invalidateQueries({ queryKey: cattleDraw.queryKey }),
  });
  if (draw.error)
    return (
      <PageTrouble
        title="Couldn't load the draw"
        detail={draw.error.message}
        again={() => void draw.refetch()}
      />
    );
  if (!draw.data) return <PageLoading what="the draw" />;
  const it = draw.data;
  if (it.horses.length === 0)
    return (
      <Empty>
        No horse that is ridden today has cattle left: those on it are done, or are on another day.
      </Empty>
    );
  const busy = keep.isPending || forget.isPending;
  return (
    <Box sx={{ display: "grid", gap: 2, maxWidth: 980 }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap" }}>
        <Typography sx={{ flex: 1, minWidth: 260 }} role="status">
          <b>
            {many(it.goes.length, "go", "goes")} on{" "}
            {many(new Set(it.goes.map((go) => go.cow_id)).size, "cow")}
          </b>{" "}
          for {many(it.horses.length, "horse")}.{" "}
          {it.works != null && `The week counts on ${many(it.works, "work")} of the cattle today. `}
          {it.by_hand
            ? `Changed by hand. ${costWords(it.cost)}`
            : "The best that was found with the herd as it stands."}
        </Typography>
        {it.by_hand && (
          <Button variant="contained" disabled={busy} onClick={() => forget.mutate()}>
            Draw again
          </Button>
        )}
      </Box>
      <FormTrouble error={keep.error ?? forget.error} />
      {visitsOf(it.goes).map((goes) => (
        <Visit
          key={goes[0]?.horse_id}
          goes={goes}
          horse={it.horses.find((h) => h.horse_id === goes[0]?.horse_id)}
          cows={cows}
          busy={busy}
          onCow={(go, cow) => keep.mutate(swapped(it.goes, it.slots, go.slot, cow))}
        />
      ))}
      {it.left_out.length > 0 && (
        <Panel by="left-out" edge={marigold} tight>
          <Typography variant="h3" component="h2" id="left-out">
            Fewer goes than it could use
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {it.left_out.map((out) => (
              <li key={out.horse_id}>
                <b>{out.horse}</b>, {many(out.missed, "go", "goes")}: {out.why}
              </li>
            ))}
          </Box>
        </Panel>
      )}
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Drawn by the clock, with a helper on the fence and a slot between two horses. A cow that turns out
        sick is noted in the herd, and the rest is drawn anew; a horse that was worked is done. How fast cows
        of a kind go is assumed.
      </Typography>
    </Box>
  );
}

function Visit(props: {
  goes: Go[];
  horse: Schemas["OnCattleOut"] | undefined;
  cows: Schemas["CowOut"][];
  busy: boolean;
  onCow: (go: Go, cow: string) => void;
}) {
  const first = props.goes[0];
  if (!first) return null;
  return (
    <Panel by={`visit-${first.horse_id}`} tight>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "baseline", flexWrap: "wrap", mb: 0.5 }}>
        <Typography variant="h2" id={`visit-${first.horse_id}`}>
          {first.horse}
        </Typography>
        <Typography sx={{ color: inkSoft, flex: 1 }}>
          on {first.rung}, no cow over {Math.round(props.horse?.most_speed ?? 0)} ft/s
          {props.horse?.own ? " by its own turns" : " until it was turned on one"}
        </Typography>
        <Link to={`/ride/${first.ride_id}`} style={{ color: ink }}>
          To the ride
        </Link>
      </Box>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {props.goes.map((go) => (
          <Box
            component="li"
            key={go.slot}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr", sm: "150px 190px 1fr" },
              columnGap: 2,
              alignItems: "center",
              borderTop: `1px solid ${rule}`,
              py: 0.75,
            }}
          >
            <TextField
              select
              size="small"
              label={`Slot ${go.slot}`}
              value={go.cow_id}
              disabled={props.busy}
              onChange={(e) => props.onCow(go, e.target.value)}
              slotProps={{
                select: {
                  renderValue: () => <b style={{ fontFamily: slab, fontSize: "1.2rem" }}>{go.tag}</b>,
                },
              }}
            >
              {props.cows.map((cow) => (
                <MenuItem key={cow.id} value={cow.id} disabled={cow.works_left === 0}>
                  {cow.tag}: {mannerName[cow.manner].toLowerCase()}
                  {cow.spared ? `, ${cow.spared}` : ""}
                </MenuItem>
              ))}
            </TextField>
            <span>
              {mannerName[go.manner]}, honours {(go.honour / 100).toFixed(1)} of 10
            </span>
            <Box component="span" sx={{ color: inkSoft }}>
              {capital(go.why)}.
              {go.broken.map((why) => (
                <Box key={why} component="span" sx={{ display: "block", color: oxblood, fontWeight: 650 }}>
                  {why}
                </Box>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
