import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Schemas } from "../../../api/client";
import { StatusMark } from "../../../parts/mark";
import { Panel } from "../../../parts/panel";
import { inkSoft, marigold, pine } from "../../../theme/tokens";
import { linesSay, notesOf } from "./figure-words";
import { NoteList } from "./note-list";

/** What to mind in a figure, and what it asks of the horse. */
export function FigureReport(props: {
  ridden: Schemas["RiddenOut"];
  horse: string;
  units: Schemas["Units"];
  /** The date by which is asked how likely it is. */
  by: string;
  /** Under what is to be minded. */
  more: ReactNode;
  onBy: (date: string) => void;
  onDrill: (need: Schemas["DrillNeed"]) => void;
}) {
  const { ridden, horse, by } = props;
  const weakest = ridden.weakest && ridden.rungs[ridden.weakest.rung];
  const drill = ridden.weakest?.drill;
  const notes = notesOf(ridden, horse, props.units);
  const missing = ridden.rungs.filter((rung) => rung.status !== "owned");
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
        alignItems: "start",
        mt: 2,
      }}
    >
      <Box sx={{ display: "grid", gap: 2 }}>
        <Panel by="figure-notes" tight edge={notes.length > 0 ? marigold : pine}>
          <Typography variant="h2" id="figure-notes" sx={{ mb: 0.5 }}>
            {notes.length === 0 ? "It fits and hangs together" : "To mind"}
          </Typography>
          <NoteList notes={notes} />
          {notes.length === 0 && (
            <span>Nothing too near the fence, no curve on the wrong lead, every stop with its run-up.</span>
          )}
          <Typography sx={{ color: inkSoft, fontSize: "0.9rem", mt: 1 }}>
            Speeds are those of an ordinary horse, and its strides too where they were not measured. Walk the
            ground first.
          </Typography>
        </Panel>
        {props.more}
      </Box>
      <Panel by="figure-asks" tight>
        <Typography variant="h2" id="figure-asks" sx={{ mb: 0.5 }}>
          What it asks of {horse}
        </Typography>
        <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1 }}>
          <span>
            {ridden.rungs.length === 0
              ? "Nothing that is a rung."
              : missing.length === 0
                ? "All of it is owned."
                : `${ridden.rungs.length - missing.length} of ${ridden.rungs.length} are owned.`}{" "}
            A load of {ridden.load} each time.
          </span>
          {missing.length > 0 && (
            <TextField
              type="date"
              size="small"
              label="Likely by"
              value={by}
              onChange={(e) => props.onBy(e.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
              sx={{ ml: "auto", width: 165 }}
            />
          )}
        </Box>
        {weakest && (
          <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1 }}>
            <span>
              The weakest part: <b>{rungSays(weakest)}</b>.
            </span>
            {drill && (
              <Button size="small" variant="outlined" onClick={() => props.onDrill(drill)}>
                Make a drill for it
              </Button>
            )}
          </Box>
        )}
        <table style={{ borderCollapse: "collapse", width: "100%" }}>
          <tbody>
            {ridden.rungs.map((rung) => (
              <tr key={`${rung.rung} ${rung.hand} ${rung.gait}`}>
                <td style={{ padding: "3px 8px 3px 0" }}>
                  {rung.status ? (
                    <StatusMark status={rung.status} />
                  ) : (
                    <span style={{ color: inkSoft }}>Not asked yet</span>
                  )}
                </td>
                <td style={{ padding: "3px 8px 3px 0", fontWeight: 600 }}>{rungSays(rung)}</td>
                <td style={{ padding: "3px 8px 3px 0", textAlign: "right", whiteSpace: "nowrap" }}>
                  {rung.status !== "owned" &&
                    (rung.chance == null ? "too early to say" : `${Math.round(rung.chance * 100)}% by then`)}
                </td>
                <td style={{ padding: "3px 0", color: inkSoft, textAlign: "right", whiteSpace: "nowrap" }}>
                  {linesSay(rung.lines)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Panel>
    </Box>
  );
}

/** `Small circles, left`. */
const rungSays = (rung: Schemas["RungAskedOut"]) =>
  [rung.name ?? rung.rung, rung.hand, rung.gait].filter(Boolean).join(", ");
