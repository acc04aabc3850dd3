import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { curriculumOf, horse, people, standing } from "../../api/queries";
import { IncidentNote } from "../../parts/incident-note";
import { useMe } from "../../parts/me";
import { useRideNow } from "../../parts/ride-now";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { day, percent, postureName, traitName } from "../../parts/words";
import { inkSoft } from "../../theme/tokens";
import { AheadPanel, Faults } from "./ahead";
import { Calls } from "./calls";
import { Claims } from "./claims";
import { Gear } from "./gear";
import { Incidents } from "./incidents";
import { Ladders } from "./ladders";
import { LayOffs } from "./layoffs";
import { Rides } from "./rides";
import { Saddle } from "./saddle";
import { TracePanel } from "./trace";
import { OverrulesAndFindings } from "./overrule-form";

/** One horse: what to do and why, what it owns left and right, how that came about, and its rides. */
export function Horse() {
  const { id = "" } = useParams();
  return <HorsePage key={id} id={id} />;
}

function HorsePage({ id }: { id: string }) {
  const me = useMe();
  const it = useQuery(horse(id));
  const now = useQuery(standing(id));
  const book = useQuery(curriculumOf(id));
  const everyone = useQuery(people());
  const [picked, setPicked] = useState<string | null>(null);
  const error = it.error ?? now.error ?? book.error;
  if (error && !(it.data && now.data && book.data))
    return (
      <PageTrouble title="Couldn't load the horse" detail={error.message} again={() => void it.refetch()} />
    );
  if (!it.data || !now.data || !book.data) return <PageLoading what="the horse" />;
  const h = it.data;
  const name = (personId?: string | null) => everyone.data?.items.find((p) => p.id === personId)?.name;
  const facts = [
    h.foaled && `foaled ${h.foaled}`,
    h.sex,
    name(h.owner_id) && `owned by ${name(h.owner_id) ?? ""}`,
    now.data.last_ridden ? `last ridden ${day(now.data.last_ridden)}` : "not ridden yet",
  ];
  // What the next ride is about, where it was asked before: else what was asked last, so that there is something to trace.
  const asked = now.data.steps.filter((s) => s.sides.length > 0);
  const main = now.data.line.main?.id;
  const step =
    picked ??
    (asked.some((s) => s.id === main) ? main : undefined) ??
    asked.findLast((s) => s.status !== "owned")?.id ??
    asked.at(-1)?.id ??
    main ??
    now.data.steps[0]?.id ??
    "";
  return (
    <Box sx={{ display: "grid", gap: 3 }}>
      <IncidentNote horse={id} />
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "end" }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">{h.name}</Typography>
          <Typography sx={{ color: inkSoft }}>{facts.filter(Boolean).join(" · ")}</Typography>
          {h.traits.length > 0 && (
            <Typography sx={{ fontWeight: 600 }}>{h.traits.map((t) => traitName[t]).join(" · ")}</Typography>
          )}
          {h.note && <Typography>{h.note}</Typography>}
        </Box>
        <Typography sx={{ color: inkSoft, maxWidth: 250 }}>
          Posture <b>{postureName[now.data.posture].toLowerCase()}</b>: advances when {percent(now.data.sure)}{" "}
          sure
        </Typography>
        {me.role !== "owner" && !h.archived && <RideNow horse={h} />}
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            lg: "minmax(0, 1fr) 340px",
          },
          alignItems: "start",
        }}
      >
        <Box sx={{ display: "grid", gap: 3, minWidth: 0 }}>
          <Box
            sx={{
              display: "grid",
              gap: 3,
              gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "270px minmax(0, 1fr)" },
              alignItems: "start",
            }}
          >
            <Saddle standing={now.data} onPick={setPicked} />
            <Calls horse={id} standing={now.data} onPick={setPicked} />
          </Box>
          <Ladders standing={now.data} book={book.data} picked={step} onPick={setPicked} />
        </Box>
        <TracePanel horse={id} step={step} standing={now.data} book={book.data} />
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "1fr 1fr" },
          alignItems: "start",
        }}
      >
        <AheadPanel horse={id} onPick={setPicked} />
        <Box sx={{ display: "grid", gap: 3, minWidth: 0 }}>
          <Faults faults={now.data.faults} cures={now.data.cures} />
          <Gear horse={id} />
          <LayOffs horse={id} />
          <Incidents horse={id} />
          <Claims horse={id} book={book.data} />
          <OverrulesAndFindings horse={id} standing={now.data} />
        </Box>
      </Box>
      <Rides horse={id} book={book.data} mayCorrect={me.role !== "owner"} />
    </Box>
  );
}

/** Goes to today's ride of the horse, making one if it is not on the string. */
function RideNow({ horse: h }: { horse: Schemas["HorseOut"] }) {
  const { open, ready, go } = useRideNow(h.id);
  return (
    <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
      <Button component={Link} to={`/horses/${h.id}/afterwards`} variant="outlined" sx={{ minHeight: 56 }}>
        Ridden already
      </Button>
      {open ? (
        <Button
          component={Link}
          to={`/ride/${open.id}`}
          variant="contained"
          sx={{ minHeight: 56, minWidth: 96, fontSize: "1.1rem" }}
        >
          {open.state === "open" ? "Go on" : "Ride"}
        </Button>
      ) : (
        <Button
          variant="contained"
          onClick={() => go.mutate("")}
          disabled={go.isPending || !ready}
          sx={{ minHeight: 56, minWidth: 96, fontSize: "1.1rem" }}
        >
          Ride
        </Button>
      )}
      <FormTrouble error={go.error} />
    </Box>
  );
}
