import Box from "@mui/material/Box";
import { useState } from "react";
import { Toggle } from "../../parts/toggle";
import { faces, gloveTarget, type Face } from "../../theme/tokens";
import { Big } from "./big";
import { FirstDaySheet } from "./first-day-sheet";
import type { Mode } from "./modes";
import type { Tack } from "./use-worn";

/** What the horse wears, on top: one tap changes it, and begins a new stretch of the ride. Beside it what its road asks for. */
export function TackRow(props: {
  tack: Tack;
  face: Face;
  /** What the pads may be for besides asks, with its names; and what they are for now. */
  modes: [Mode, string][];
  mode: Mode | null;
  onMode: (mode: Mode | null) => void;
}) {
  const { tack, face } = props;
  const look = faces[face];
  const [list, setList] = useState(false);
  const { pieces } = tack;
  const firstDay = tack.log.seen?.first_day;
  if (pieces.length < 2 && !firstDay && props.modes.length === 0) return null;
  return (
    <Box
      role="group"
      aria-label="Tack"
      sx={{
        gridArea: "tack",
        minWidth: 0,
        display: "flex",
        gap: "4px",
        overflowX: "auto",
        scrollbarWidth: "none",
      }}
    >
      {pieces.length > 1 &&
        pieces.map((piece) => (
          <Toggle
            key={piece.id}
            name={piece.name}
            on={tack.worn.includes(piece.id)}
            colours={{ text: look.text, line: look.line, on: look.text, onText: look.ground }}
            onPress={() => tack.tap(piece)}
            sx={{
              minHeight: gloveTarget,
              px: 1,
              flex: "1 1 0",
              minWidth: 96,
              maxWidth: 220,
              lineHeight: 1.1,
            }}
          />
        ))}
      {props.modes.map(([mode, name]) => (
        <Big
          key={mode}
          face={face}
          pressed={props.mode === mode}
          onClick={() => props.onMode(props.mode === mode ? null : mode)}
        >
          {name}
        </Big>
      ))}
      {firstDay && (
        <Big face={face} onClick={() => setList(true)}>
          First day in leverage
        </Big>
      )}
      {list && firstDay && <FirstDaySheet list={firstDay} log={tack.log} onClose={() => setList(false)} />}
    </Box>
  );
}
