import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { day as dayWords } from "../../parts/words";
import { marigold, oxblood, sageDark } from "../../theme/tokens";
import { Line } from "./head";
import { known } from "./known";
import type { Trouble, Week } from "./use-week";

/** What was not kept, what shows will not see, which rules are broken, and what a mending moved. */
export function Notices(props: {
  week: Week;
  signal: boolean;
  trouble: Trouble | null;
  onAgain: () => void;
  moved: string[] | null;
  onSeen: () => void;
}) {
  const { week, trouble, moved } = props;
  return (
    <>
      {!props.signal && (
        <Line edge={marigold}>
          <span>
            <b>No signal:</b> this is the week as this device saw it last. It can be changed again when the
            signal is back.
          </span>
        </Line>
      )}
      {trouble && (
        <Line edge={oxblood}>
          <span>
            {trouble.changedMeanwhile
              ? "Someone else changed this week. Your change wasn't saved."
              : `Couldn't save: ${trouble.error.message}`}
          </span>
          <Button variant="outlined" onClick={props.onAgain}>
            Show it as it is
          </Button>
        </Line>
      )}
      {week.warnings.map((w) => (
        <Line key={w.show + w.horse_id} edge={marigold}>
          <span>
            <b>
              {known(week.horses, w.horse_id)?.name}, {w.show} on {dayWords(w.day)}:
            </b>{" "}
            {w.says}
          </span>
        </Line>
      ))}
      {week.judged.breaks.map((b) => (
        <Line key={b.says} edge={oxblood}>
          <span>
            <b>Breaks a rule:</b> {b.says}
          </span>
        </Line>
      ))}
      {moved && (
        <Line edge={sageDark}>
          <details open>
            <summary>
              <b>{moved.length > 0 ? `${moved.length} moved` : "Nothing had to move"}</b>
            </summary>
            <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
              {moved.map((m) => (
                <li key={m}>{m}</li>
              ))}
            </Box>
          </details>
          <Button onClick={props.onSeen}>Dismiss</Button>
        </Line>
      )}
    </>
  );
}
