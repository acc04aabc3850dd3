import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";
import type { Schemas } from "../../../api/client";
import { FOOT, onTape } from "../../../parts/lengths";
import { StatusMark } from "../../../parts/mark";
import { Panel } from "../../../parts/panel";
import { capital } from "../../../parts/words";
import { inkSoft, marigold, pine, rule } from "../../../theme/tokens";
import { notesOf } from "./figure-words";
import { NoteList } from "./note-list";
import { StridesDialog } from "./strides-dialog";

/** Less than this part of a stride off a whole number is nothing to mind. */
const NEARLY = 0.12;

/** The obstacles of a course in order: what each asks of the horse, the strides between, and what is left to lay. */
export function CoursePanel(props: {
  ridden: Schemas["RiddenOut"];
  horse: { id: string; name: string };
  units: Schemas["Units"];
  /** Under what is to be minded. */
  more: ReactNode;
  onLay: (text: string) => void;
  /** Makes the straight of a line longer, feet. */
  onLengthen: (line: number, feet: number) => void;
}) {
  const { ridden, horse, units } = props;
  const [measuring, setMeasuring] = useState(false);
  const { course } = ridden;
  const notes = notesOf(ridden, horse.name, units);
  const hardest = [...course].sort((a, b) => (b.place ?? 0) - (a.place ?? 0))[0];
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        gridTemplateColumns: { xs: "1fr", md: "3fr 2fr" },
        alignItems: "start",
        mt: 2,
      }}
    >
      <Panel by="course-obstacles" tight>
        <Box sx={{ display: "flex", gap: 1.5, alignItems: "baseline", flexWrap: "wrap", mb: 0.5 }}>
          <Typography variant="h2" id="course-obstacles">
            {course.length === 0 ? "No obstacle yet" : `The course for ${horse.name}`}
          </Typography>
          <Button className="no-print" size="small" onClick={() => setMeasuring(true)} sx={{ ml: "auto" }}>
            Measure its strides
          </Button>
        </Box>
        {course.length > 1 && hardest && (
          <Typography sx={{ mb: 0.5 }}>
            Hardest for {horse.name}: <b>{hardest.name.toLowerCase()}</b>. At the right, from the easiest to
            the hardest.
          </Typography>
        )}
        <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {course.map((item, n) => (
            <Box
              component="li"
              key={n}
              sx={{
                display: "grid",
                gridTemplateColumns: "26px minmax(0, 1fr) auto",
                gap: 1,
                borderTop: `1px solid ${rule}`,
                py: 0.75,
              }}
            >
              <Box sx={{ color: inkSoft, fontWeight: 700 }}>{n + 1}</Box>
              <Box sx={{ minWidth: 0 }}>
                <b>{item.name}</b>{" "}
                <span style={{ color: inkSoft }}>
                  {item.gait === "stand" ? "" : `at the ${item.gait}, `}line {item.line}
                </span>
                <Box>
                  {item.status ? <StatusMark status={item.status} /> : "Not asked yet"}{" "}
                  <span style={{ color: inkSoft }}>{item.rung_name ?? item.rung}</span>
                </Box>
                {item.from_before && (
                  <Strides
                    of={item.from_before}
                    straight={item.straight}
                    units={units}
                    onLengthen={props.onLengthen}
                  />
                )}
              </Box>
              <Box sx={{ textAlign: "right", whiteSpace: "nowrap", color: inkSoft }}>
                {item.place && placeSays(item.place, course.length)}
              </Box>
            </Box>
          ))}
        </Box>
        <Typography sx={{ color: inkSoft, fontSize: "0.9rem", mt: 1 }}>
          Wedge poles so that none rolls, sound planks that are not slick, and know the bottom of mud and
          water.
        </Typography>
      </Panel>
      <Box sx={{ display: "grid", gap: 2 }}>
        <Panel by="course-lay" tight>
          <Typography variant="h2" id="course-lay" sx={{ mb: 0.75 }}>
            Lay one more
          </Typography>
          <Box className="no-print" sx={{ display: "flex", flexWrap: "wrap", gap: "6px" }}>
            {ridden.lay.map((it) => (
              <Button
                key={`${it.obstacle} ${it.gait}`}
                variant="outlined"
                size="small"
                onClick={() => props.onLay(it.text)}
              >
                {it.obstacle === "poles" ? `Poles, ${it.gait}` : it.name}
              </Button>
            ))}
          </Box>
        </Panel>
        <Panel by="course-notes" tight edge={notes.length > 0 ? marigold : pine}>
          <Typography variant="h2" id="course-notes" sx={{ mb: 0.5 }}>
            {notes.length === 0 ? "It fits, and is laid as rule books have it" : "To mind"}
          </Typography>
          <NoteList notes={notes} />
        </Panel>
        {props.more}
      </Box>
      {measuring && <StridesDialog horse={horse} units={units} onClose={() => setMeasuring(false)} />}
    </Box>
  );
}

function Strides(props: {
  of: Schemas["WholeStrides"];
  straight: number | null | undefined;
  units: Schemas["Units"];
  onLengthen: (line: number, feet: number) => void;
}) {
  const { of, straight } = props;
  if (Math.abs(of.strides - of.whole) < NEARLY) return <Box>{of.whole} strides from the one before.</Box>;
  const change = `${onTape(props.units, Math.abs(of.longer))} ${of.longer > 0 ? "longer" : "shorter"}`;
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
      <span>
        {of.strides.toFixed(1)} strides from the one before: {change} makes it {of.whole}.
      </span>
      {straight && (
        <Button
          className="no-print"
          size="small"
          variant="outlined"
          onClick={() => props.onLengthen(straight, of.longer / FOOT)}
        >
          {capital(of.longer > 0 ? "lengthen it" : "shorten it")}
        </Button>
      )}
    </Box>
  );
}

/** `Easiest`, `3 of 7`, `hardest`. */
const placeSays = (place: number, all: number) =>
  all > 1 && place === 1 ? "easiest" : all > 1 && place === all ? "hardest" : `${place} of ${all}`;
