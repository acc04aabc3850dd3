import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, ask, Refused, type Schemas } from "../../../api/client";
import { figures } from "../../../api/queries";
import { useKeys } from "../../../parts/keys";
import { useMe } from "../../../parts/me";
import { useRideNow } from "../../../parts/ride-now";
import { FormTrouble, PageLoading } from "../../../parts/states";
import { inkSoft, paper, rule } from "../../../theme/tokens";
import { DrillParts } from "./drill-dialog";
import { Editor } from "./editor";
import { FigureDrawing, PathLegend, type Placeable } from "./figure-drawing";
import { FigureReport } from "./figure-report";
import { goes, inShort } from "./figure-words";
import { CoursePanel } from "./course-panel";
import { ScoredRuns } from "./scored-runs";
import { appended, lengthened, nudged, placed, startLine } from "./text-edit";
import { useTyped } from "./use-typed";
import { useFigure } from "./use-figure";
import { useRide } from "./use-ride";

export type Draft = { id: string; name: string; text: string; version: number | null };

/** A date four weeks on. */
function monthAfter(today: string): string {
  const date = new Date(`${today}T00:00:00Z`);
  date.setUTCDate(date.getUTCDate() + 28);
  return date.toISOString().slice(0, 10);
}

/** One figure: its text on the left, the pen on the right; either changes the other. */
export function FigureBench(props: {
  /** How it is named in an address. */
  id: string;
  draft: Draft;
  /** Which figure: above its text. */
  choice: ReactNode;
  ground: string;
  pen: Schemas["Pen"];
  horse: { id: string; name: string };
  units: Schemas["Units"];
  /** The drill that the text was made as. */
  drill: Schemas["DrillOut"] | null;
  /** Whether it is looked at as a trail course. */
  course: boolean;
  /** Makes a drill: for a need where one is given. */
  onDrill: (need?: Schemas["DrillNeed"]) => void;
  onKept: (id: string) => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState(props.draft.name);
  const [text, setText, forget] = useTyped(props.draft, `${props.id}.${props.draft.version ?? 0}`);
  const { today } = useMe();
  const [by, setBy] = useState(() => monthAfter(today));
  const { faults, ridden, error } = useFigure(text, props.ground, props.horse.id, by || null);
  const { go } = useRideNow(props.horse.id);
  const ride = useRide(ridden?.path ?? []);
  const save = useMutation({
    mutationFn: (archived: boolean) =>
      ask(
        api.PUT("/api/figures/{id}", {
          params: { path: { id: props.draft.id } },
          body: { version: props.draft.version, name, text, archived },
        }),
      ),
    onSuccess: async (kept) => {
      forget();
      await client.invalidateQueries({ queryKey: figures.queryKey });
      props.onKept(kept.archived ? "" : kept.id);
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
  const begins = startLine(text);
  const first = ridden?.path[0];
  const places: Placeable[] = [
    ...(ridden?.places ?? []).flatMap((place) =>
      place.line == null ? [] : [{ name: place.name, line: place.line, at: place.at }],
    ),
    ...(begins !== null && first ? [{ name: "start", line: begins, at: first.at }] : []),
  ];
  const mirror = () => faults.length === 0 && ridden && setText(ridden.mirrored);
  useKeys({ m: mirror, r: () => (ride.now ? ride.stop() : ride.play()) });
  // What is called on the ride is what the barn keeps.
  const rideIt = async () => {
    const kept = changed && !isReady ? await save.mutateAsync(false) : null;
    go.mutate(`?figure=${encodeURIComponent(kept?.id ?? props.id)}`);
  };
  const isReady = props.draft.version === null && props.id.startsWith("ready") && text === props.draft.text;
  const scored = ridden && (
    <ScoredRuns
      horse={props.horse}
      figure={{ name, text, ground: props.ground }}
      manoeuvres={ridden.manoeuvres.length}
    />
  );
  const changed = text !== props.draft.text || name !== props.draft.name || props.draft.version === null;
  return (
    <>
      <Box
        sx={{
          display: "grid",
          gap: 2,
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 400px) minmax(0, 1fr)" },
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          {props.choice}
          <TextField
            fullWidth
            size="small"
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            error={!!refused?.field("name")}
            helperText={refused?.field("name")}
            sx={{ mb: 1 }}
          />
          <Editor text={text} faults={faults} now={ride.now?.piece.line ?? null} onType={setText} />
          <Box className="no-print" sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
            <Button
              variant="contained"
              disabled={save.isPending || !changed}
              onClick={() => save.mutate(false)}
            >
              Save
            </Button>
            <Button variant="outlined" disabled={faults.length > 0 || !ridden} onClick={mirror}>
              Mirror (M)
            </Button>
            <Button
              variant="outlined"
              disabled={faults.length > 0 || !ridden || ridden.text === text}
              onClick={() => ridden && setText(ridden.text)}
            >
              Tidy
            </Button>
            {!props.course && (
              <Button variant="outlined" onClick={() => props.onDrill()}>
                Make a drill
              </Button>
            )}
            <Button
              variant="outlined"
              disabled={faults.length > 0 || !ridden || go.isPending || save.isPending}
              onClick={() => void rideIt()}
            >
              Ride it
            </Button>
            {props.draft.version !== null && (
              <Button variant="outlined" disabled={save.isPending} onClick={() => save.mutate(true)}>
                Put away
              </Button>
            )}
          </Box>
          <FormTrouble error={refused?.problem.errors?.length ? null : (save.error ?? go.error ?? error)} />
          {props.drill && <DrillParts drill={props.drill} />}
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1 }}>
            <Button
              className="no-print"
              variant="contained"
              disabled={!ridden}
              onClick={() => (ride.now ? ride.stop() : ride.play())}
            >
              {ride.now ? "Stop (R)" : "Play (R)"}
            </Button>
            <Box role="status" sx={{ fontWeight: 650 }}>
              {ride.now
                ? `Line ${ride.now.piece.line}, ${goes(ride.now.piece.gait, ride.now.piece.lead)}`
                : ridden && inShort(ridden, props.units)}
            </Box>
            <Button className="no-print" variant="text" onClick={() => window.print()} sx={{ ml: "auto" }}>
              Print
            </Button>
          </Box>
          <Box
            sx={{
              background: paper,
              border: `1px solid ${rule}`,
              height: { xs: 430, md: "clamp(430px, calc(100vh - 290px), 600px)" },
              opacity: faults.length > 0 ? 0.5 : 1,
            }}
          >
            {ridden ? (
              <FigureDrawing
                pen={props.pen}
                ridden={ridden}
                places={faults.length > 0 ? [] : places}
                numbered={props.course}
                now={ride.now}
                onPlace={(line, x, y) => setText((old) => placed(old, line, x, y))}
                onNudge={(line, dx, dy) => setText((old) => nudged(old, line, dx, dy))}
              />
            ) : faults.length > 0 ? (
              <Box sx={{ p: 2, color: inkSoft }}>Mend the text, and it is drawn here.</Box>
            ) : (
              <PageLoading what="the figure" />
            )}
          </Box>
          <Box sx={{ mt: 0.75 }}>
            <PathLegend />
          </Box>
        </Box>
      </Box>
      {ridden && faults.length === 0 && !props.course && (
        <FigureReport
          ridden={ridden}
          horse={props.horse.name}
          units={props.units}
          by={by}
          onBy={setBy}
          more={scored}
          onDrill={props.onDrill}
        />
      )}
      {ridden && faults.length === 0 && props.course && (
        <CoursePanel
          ridden={ridden}
          horse={props.horse}
          units={props.units}
          more={scored}
          onLay={(more) => setText((old) => appended(old, more))}
          onLengthen={(line, feet) => setText((old) => lengthened(old, line, feet))}
        />
      )}
    </>
  );
}
