import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { passesOf } from "../../api/queries";
import { about } from "../../parts/lengths";
import { OpenFile } from "../../parts/open-file";
import { passFaults } from "../../parts/pass-pad";
import { Empty, FormTrouble, PageLoading } from "../../parts/states";
import { day } from "../../parts/words";
import { Event } from "./event";
import { denim, inkSoft, rule, rust } from "../../theme/tokens";

type Pass = Schemas["PassOut"];

const faultName = new Map(passFaults);

/** One pass in few words: what went wrong, barrel by barrel. */
function wrong(pass: Pass): string {
  const said = pass.barrels.flatMap((barrel, n) => {
    const faults = (barrel.faults ?? []).map((f) => faultName.get(f)?.toLowerCase() ?? f);
    if (barrel.knocked) faults.unshift("down");
    const wide = (barrel.pocket ?? []).filter((p) => p === "wide").length;
    const close = (barrel.pocket ?? []).filter((p) => p === "close").length;
    if (wide > 0) faults.push(`wide at ${wide}`);
    if (close > 0) faults.push(`close at ${close}`);
    if (barrel.rate && barrel.rate !== "as-planned") faults.push(`rated ${barrel.rate}`);
    return faults.length ? [`${n + 1}: ${faults.join(", ")}`] : [];
  });
  return said.join(" · ") || "As planned";
}

/** The passes of a horse, latest first: compared with each other, each to be laid over the plan. */
export function Passes(props: {
  horse: string;
  units: Schemas["Units"];
  shown: string | null;
  onShow: (pass: Pass | null) => void;
}) {
  const client = useQueryClient();
  const { data, error } = useQuery(passesOf(props.horse));
  const changed = () => void client.invalidateQueries({ queryKey: ["horse", props.horse] });
  const track = useMutation({
    mutationFn: async ({ pass, file }: { pass: Pass; file: File }) => {
      await ask(
        api.PUT("/api/passes/{id}/track", {
          params: { path: { id: pass.id } },
          body: { text: await file.text() },
        }),
      );
      return pass.id;
    },
    onSuccess: changed,
  });
  const remove = useMutation({
    mutationFn: ({ id, back }: { id: string; back: boolean }) =>
      ask(api.DELETE("/api/passes/{id}", { params: { path: { id }, query: { back } } })),
    onSuccess: changed,
  });
  const removed = remove.data !== undefined || remove.isSuccess ? remove.variables : null;
  if (error) return <FormTrouble error={error} />;
  if (!data) return <PageLoading what="the passes" />;
  // Times compare within a gait and over the same set-up.
  const alike = (pass: Pass) =>
    data.items.filter((p) => p.gait === pass.gait && p.set_up_id === pass.set_up_id);
  const behind = (pass: Pass) =>
    (pass.official ?? 0) - Math.min(...alike(pass).map((p) => p.official ?? Infinity));
  const lastRun = data.items.find((p) => p.gait === "run" && p.official);
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Drifts drifts={data.drifts} />
      {lastRun && <Event setUp={lastRun.set_up_id} on={lastRun.on} />}
      {removed && !removed.back && (
        <Box role="status">
          The pass was taken out.{" "}
          <Button onClick={() => remove.mutate({ id: removed.id, back: true })}>Undo</Button>
        </Box>
      )}
      <FormTrouble error={track.error ?? remove.error} />
      {data.items.length === 0 && <Empty>No passes so far. Log one here or in Ride.</Empty>}
      <Box component="ul" aria-label="Passes" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {data.items.slice(0, 30).map((pass) => (
          <Box component="li" key={pass.id} sx={{ borderTop: `1px solid ${rule}`, py: 1 }}>
            <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, alignItems: "baseline" }}>
              <b>
                {day(pass.on)}, {pass.gait}, {pass.rider}
              </b>
              <b>
                {pass.official ? `${pass.official.toFixed(2)} s` : ""}
                {pass.official && behind(pass) > 0.004 ? (
                  <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
                    {" "}
                    +{behind(pass).toFixed(2)}
                  </Box>
                ) : null}
              </b>
            </Box>
            <Typography>{wrong(pass)}</Typography>
            {pass.track && <TrackFacts pass={pass} track={pass.track} units={props.units} />}
            <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 0.5 }}>
              {pass.track ? (
                <Button
                  variant="outlined"
                  aria-pressed={props.shown === pass.id}
                  onClick={() => props.onShow(props.shown === pass.id ? null : pass)}
                >
                  {props.shown === pass.id ? "Hide its track" : "Show its track"}
                </Button>
              ) : (
                <OpenFile
                  name="Lay a track over"
                  accept=".gpx,application/gpx+xml"
                  onOpen={(file) => track.mutate({ pass, file })}
                />
              )}
              <Button onClick={() => remove.mutate({ id: pass.id, back: false })}>Take out</Button>
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** What the watch says: pockets against those planned, and how far it is off. */
function TrackFacts({
  pass,
  track,
  units,
}: {
  pass: Pass;
  track: Schemas["TrackOut"];
  units: Schemas["Units"];
}) {
  const planned = (n: number) => pass.set_up.barrels[n]?.pocket;
  return (
    <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
      By the watch:{" "}
      {track.pockets
        .map((p, n) => {
          const plan = planned(n);
          const off = plan ? [plan.entry, plan.back, plan.exit].map((v, k) => (p[k] ?? 0) - v) : [];
          const most = off.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
          return `${n + 1} ${most >= 0 ? "wide" : "close"} by ${about(units, Math.abs(most))}`;
        })
        .join(", ")}
      ; the watch is good to about {about(units, track.off)}.
    </Typography>
  );
}

/** How the horse drifts at each barrel, week by week: right and left barrels are two horses. */
function Drifts({ drifts }: { drifts: Schemas["DriftOut"][] }) {
  if (drifts.length === 0) return null;
  const weeks = [...new Set(drifts.map((d) => d.week))].sort().slice(-8);
  const barrels = [...new Set(drifts.map((d) => d.barrel))].sort((a, b) => a - b);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography component="figcaption" sx={{ fontWeight: 650 }}>
        Close or wide, week by week
      </Typography>
      {barrels.map((barrel) => {
        const of = drifts.filter((d) => d.barrel === barrel);
        const hand = of.at(-1)?.hand ?? "left";
        const last = of.at(-1)?.drift ?? 0;
        return (
          <Box
            key={barrel}
            sx={{
              display: "grid",
              gridTemplateColumns: "92px minmax(0, 1fr) 84px",
              gap: 1,
              alignItems: "center",
            }}
          >
            <span>
              {barrel + 1}, {hand}
            </span>
            <svg viewBox={`0 0 ${weeks.length * 26} 34`} height={34} role="img" aria-hidden="true">
              <line x1={0} x2={weeks.length * 26} y1={17} y2={17} stroke={rule} />
              {weeks.map((week, n) => {
                const d = of.find((one) => one.week === week);
                if (!d) return null;
                const high = Math.abs(d.drift) * 16;
                return (
                  <rect
                    key={week}
                    x={n * 26 + 5}
                    width={16}
                    y={d.drift > 0 ? 17 - high : 17}
                    height={Math.max(high, 1.5)}
                    fill={hand === "left" ? denim : rust}
                  />
                );
              })}
            </svg>
            <span>{last > 0.15 ? "wide" : last < -0.15 ? "close" : "as planned"}</span>
          </Box>
        );
      })}
    </Box>
  );
}
