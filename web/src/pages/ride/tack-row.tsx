import Box from "@mui/material/Box";
import { useState } from "react";
import { Toggle } from "../../parts/toggle";
import { faces, gloveTarget, type Face } from "../../theme/tokens";
import { Big } from "./big";
import { FirstDaySheet } from "./first-day-sheet";
import type { Tack } from "./use-worn";

/** What the horse wears, on top: one tap changes it, and begins a new stretch of the ride. Beside it what its road asks for. */
export function TackRow(props: {
  tack: Tack;
  face: Face;
  testing: boolean;
  onTest: () => void;
  /** Whether the pads are for turns on cattle; null where the rung is not on cattle. */
  herding: boolean | null;
  onHerd: () => void;
}) {
  const { tack, face } = props;
  const look = faces[face];
  const [list, setList] = useState(false);
  const { pieces } = tack;
  const mayTest = (tack.log.seen?.orders.length ?? 0) > 0;
  const firstDay = tack.log.seen?.first_day;
  if (pieces.length < 2 && !mayTest && !firstDay && props.herding === null) return null;
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
      {mayTest && (
        <Big face={face} pressed={props.testing} onClick={props.onTest}>
          One rein or two
        </Big>
      )}
      {props.herding !== null && (
        <Big face={face} pressed={props.herding} onClick={props.onHerd}>
          Turns on cattle
        </Big>
      )}
      {firstDay && (
        <Big face={face} onClick={() => setList(true)}>
          First day in leverage
        </Big>
      )}
      {list && firstDay && <FirstDaySheet list={firstDay} log={tack.log} onClose={() => setList(false)} />}
    </Box>
  );
}
