import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { about } from "../../parts/lengths";
import { OpenFile } from "../../parts/open-file";
import { PassForm } from "../../parts/pass-form";
import { passFaults } from "../../parts/pass-pad";
import { FormTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { inkSoft, rule } from "../../theme/tokens";
import { spotName, spots } from "./draft";

type Pass = Schemas["PassOut"];

const faultName = new Map(passFaults);

/** One pass in few words: what went wrong, barrel by barrel. */
export function wrong(barrels: Schemas["BarrelTold"][]): string {
  const said = barrels.flatMap((barrel, n) => {
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

/** One pass: how it went, its track, and what can be done with it. */
export function PassItem(props: {
  pass: Pass;
  horse: string;
  units: Schemas["Units"];
  /** Seconds over the quickest of those it compares with. */
  behind: number;
  shown: boolean;
  onShow: () => void;
  onTakeOut: () => void;
}) {
  const { pass, units } = props;
  const client = useQueryClient();
  const [correcting, setCorrecting] = useState(false);
  const changed = () => void client.invalidateQueries({ queryKey: ["horse", props.horse] });
  const track = useMutation({
    mutationFn: async (file: File) =>
      ask(
        api.PUT("/api/passes/{id}/track", {
          params: { path: { id: pass.id } },
          body: { text: await file.text() },
        }),
      ),
    onSuccess: changed,
  });
  return (
    <Box component="li" sx={{ borderTop: `1px solid ${rule}`, py: 1 }}>
      <Line>
        <b>
          {day(pass.on)}, {pass.gait}, {pass.rider}
        </b>
        <b>
          {pass.official ? `${pass.official.toFixed(2)} s` : ""}
          {pass.official && props.behind > 0.004 ? (
            <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
              {" "}
              +{props.behind.toFixed(2)}
            </Box>
          ) : null}
        </b>
      </Line>
      <Typography>{wrong(pass.barrels)}</Typography>
      {pass.track && <TrackFacts pass={pass} track={pass.track} units={units} />}
      <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 0.5 }}>
        {pass.track ? (
          <Button variant="outlined" aria-pressed={props.shown} onClick={props.onShow}>
            {props.shown ? "Hide its track" : "Show its track"}
          </Button>
        ) : (
          <OpenFile
            name="Lay a track over"
            accept=".gpx,application/gpx+xml"
            onOpen={(file) => track.mutate(file)}
          />
        )}
        {pass.track?.file && (
          <Button href={`/api/passes/${pass.id}/track`} download={`pass-${pass.on}.gpx`}>
            As GPX
          </Button>
        )}
        <Button aria-expanded={correcting} onClick={() => setCorrecting(!correcting)}>
          Correct
        </Button>
        <Button onClick={props.onTakeOut}>Take out</Button>
      </Box>
      <FormTrouble error={track.error} />
      {correcting && (
        <Correct
          key={pass.version}
          pass={pass}
          horse={props.horse}
          units={units}
          onDone={() => (setCorrecting(false), changed())}
          onStale={changed}
        />
      )}
    </Box>
  );
}

/** What was told of a pass, to be told otherwise. */
function Correct(props: {
  pass: Pass;
  horse: string;
  units: Schemas["Units"];
  onDone: () => void;
  onStale: () => void;
}) {
  const { pass } = props;
  const save = useMutation({
    mutationFn: (body: Schemas["PassCorrection"]) =>
      ask(api.PATCH("/api/passes/{id}", { params: { path: { id: pass.id } }, body })),
    onSuccess: props.onDone,
  });
  return (
    <Box sx={{ mt: 1, pl: 1.5, borderLeft: `4px solid ${rule}` }}>
      <PassForm
        name="Correct the pass"
        horse={props.horse}
        setUp={pass.set_up}
        units={props.units}
        begin={{
          gait: pass.gait,
          barrels: pass.barrels,
          behind: pass.behind,
          seconds: pass.seconds ?? null,
          note: pass.note,
        }}
        action="Save"
        busy={save.isPending}
        error={save.error}
        onSubmit={({ gait, ...told }) => save.mutate({ version: pass.version, gait, told })}
      >
        {save.isError && <Button onClick={props.onStale}>Read it again</Button>}
      </PassForm>
    </Box>
  );
}

/** What the watch says of each spot against what was planned, and how far it may be off. */
function TrackFacts(props: { pass: Pass; track: Schemas["TrackOut"]; units: Schemas["Units"] }) {
  const { pass, track, units } = props;
  const off = (n: number, k: number) => {
    const planned = pass.set_up.barrels[n]?.pocket[spots[k] ?? "entry"] ?? 0;
    return (track.pockets[n]?.[k] ?? planned) - planned;
  };
  /** A difference that the watch cannot tell from none is not called wide or close. */
  const said = (by: number) =>
    Math.abs(by) <= track.off ? "as planned" : `${about(units, Math.abs(by))} ${by > 0 ? "wide" : "close"}`;
  return (
    <Box sx={{ color: inkSoft, fontSize: "0.95rem" }}>
      <Typography sx={{ fontSize: "inherit" }}>
        By the watch, each good to about {about(units, track.off)}:
      </Typography>
      {track.pockets.map((_, n) => (
        <Typography key={n} sx={{ fontSize: "inherit" }}>
          {n + 1}: {spots.map((spot, k) => `${spotName[spot].toLowerCase()} ${said(off(n, k))}`).join(", ")}
        </Typography>
      ))}
    </Box>
  );
}

function Line({ children }: { children: ReactNode }) {
  return (
    <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, alignItems: "baseline" }}>
      {children}
    </Box>
  );
}
