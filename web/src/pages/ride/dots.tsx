import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import type { Side } from "../../parts/words";
import type { ReactNode } from "react";
import { type Face, faces, gloveTarget, ink, softness } from "../../theme/tokens";
import { endedWell, shortly } from "../../parts/counts";
import type { Counted } from "./counted";
import type { Rep } from "./session";

const SHOWN = 12;
const SHOWN_COUNTS = 8;

/** The last reps of what is being asked, left on the left and right on the right; newest toward the middle. A touch opens
 * the last of them to be put right, the next touch the one before it. */
export function Dots(props: {
  reps: Rep[];
  sides: Side[];
  weights: Schemas["WeightOut"][];
  face: Face;
  open: string | null;
  onOpen: (rep: Rep) => void;
}) {
  return (
    <Sided sides={props.sides}>
      {(side) => {
        const mine = props.reps.filter((r) => r.set.side === side);
        const gave = mine.filter((r) => r.outcome === "gave").length;
        const at = mine.findIndex((r) => r.id === props.open);
        const next = at > 0 ? mine[at - 1] : mine.at(-1);
        return (
          <Row
            side={side}
            face={props.face}
            says={mine.length > 0 ? `gave ${gave} of ${mine.length}` : "none yet"}
            label={next ? `Correct: ${labelOf(next, props.weights)}` : undefined}
            onOpen={next ? () => props.onOpen(next) : undefined}
          >
            {mine.slice(-SHOWN).map((rep) => (
              <Dot key={rep.id} rep={rep} weights={props.weights} face={props.face} />
            ))}
          </Row>
        );
      }}
    </Sided>
  );
}

/** What was counted of what is being asked. A touch opens the last of them, the next the one before. */
export function CountMarks(props: {
  counted: Counted[];
  sides: Side[];
  face: Face;
  open: string | null;
  onOpen: (counted: Counted) => void;
}) {
  return (
    <Sided sides={props.sides}>
      {(side) => {
        const mine = props.counted.filter((c) => c.set.side === side);
        const at = mine.findIndex((c) => c.set.id === props.open);
        const next = at > 0 ? mine[at - 1] : mine.at(-1);
        return (
          <Row
            side={side}
            face={props.face}
            says={mine.length > 0 ? `${mine.length} counted` : "none yet"}
            label={next ? `Correct: ${shortly(next.count)}` : undefined}
            onOpen={next ? () => props.onOpen(next) : undefined}
          >
            <Marks side={side}>
              {mine
                .slice(-SHOWN_COUNTS)
                .reverse()
                .map((c) => (
                  <CountMark key={c.set.id} counted={c} face={props.face} />
                ))}
            </Marks>
          </Row>
        );
      }}
    </Sided>
  );
}

/** Marks, newest first and toward the middle; those for which there is no room are the oldest. */
function Marks({ side, children }: { side: Side; children: ReactNode }) {
  return (
    <Box
      sx={{
        flex: 1,
        minWidth: 0,
        display: "flex",
        flexWrap: "wrap",
        flexDirection: side === "right" ? "row" : "row-reverse",
        height: 30,
        rowGap: "12px",
        overflow: "hidden",
        alignContent: "flex-start",
      }}
    >
      {children}
    </Box>
  );
}

/** A count as a mark: filled where it ended as it should, with a nick where it had a fault. */
function CountMark({ counted, face }: { counted: Counted; face: Face }) {
  const look = faces[face];
  const well = endedWell(counted.count);
  return (
    <Box
      component="span"
      title={[shortly(counted.count), ...counted.faults].join(", ")}
      sx={{
        flex: "none",
        whiteSpace: "nowrap",
        border: `2px solid ${look.text}`,
        borderTopWidth: counted.faults.length > 0 ? 7 : 2,
        background: well ? look.text : "none",
        color: well ? look.ground : look.text,
        fontWeight: 650,
        fontSize: "0.92rem",
        lineHeight: 1.25,
        px: 0.75,
        mx: "2px",
      }}
    >
      {shortly(counted.count)}
    </Box>
  );
}

function Sided(props: { sides: Side[]; children: (side: Side) => ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: `repeat(${props.sides.length}, minmax(0, 1fr))`,
        gap: "6px",
      }}
    >
      {props.sides.map((side) => (
        <Box key={side} aria-label={`Reps ${side}`} role="group" sx={{ minWidth: 0 }}>
          {props.children(side)}
        </Box>
      ))}
    </Box>
  );
}

function Row(props: {
  side: Side;
  face: Face;
  says: string;
  label?: string;
  onOpen?: () => void;
  children: ReactNode;
}) {
  const look = faces[props.face];
  const direction = props.side === "right" ? "row-reverse" : "row";
  return (
    <Box
      component={props.onOpen ? "button" : "div"}
      {...(props.onOpen ? { type: "button", onClick: props.onOpen } : {})}
      sx={{
        font: "inherit",
        width: "100%",
        border: 0,
        p: 0,
        background: "none",
        color: look.text,
        cursor: props.onOpen ? "pointer" : "default",
        display: "flex",
        flexDirection: direction,
        alignItems: "center",
        gap: 0.5,
        minHeight: gloveTarget,
        minWidth: 0,
      }}
    >
      <Box sx={{ fontWeight: 700, whiteSpace: "nowrap", fontSize: "0.98rem", mx: 0.5 }}>{props.says}</Box>
      <Box
        sx={{
          display: "flex",
          flexDirection: direction,
          flex: 1,
          justifyContent: "flex-end",
          overflow: "hidden",
        }}
      >
        {props.children}
      </Box>
      {props.label && (
        <Box
          component="span"
          sx={{ position: "absolute", width: 1, height: 1, overflow: "hidden", clipPath: "inset(50%)" }}
        >
          {props.label}
        </Box>
      )}
    </Box>
  );
}

function labelOf(
  rep: Pick<Rep, "outcome" | "weight" | "seconds" | "faults">,
  weights: Schemas["WeightOut"][],
): string {
  const phrase = weights.find((w) => w.weight === rep.weight)?.phrase ?? rep.weight;
  const time = rep.seconds == null ? "" : `, ${rep.seconds.toFixed(1)} s`;
  const faults = rep.faults.length ? `, ${rep.faults.join(", ")}` : "";
  return `${rep.outcome === "none" ? "no answer" : rep.outcome} at ${phrase}${time}${faults}`;
}

/** A rep as a mark: full for gave, half for tried, hollow for none; its colour is the weight. */
export function Dot(props: {
  rep: Pick<Rep, "outcome" | "weight" | "seconds" | "faults">;
  weights: Schemas["WeightOut"][];
  face?: Face;
  onOpen?: () => void;
}) {
  const { rep } = props;
  const at = props.weights.findIndex((w) => w.weight === rep.weight);
  const colour = softness(1 - at / Math.max(1, props.weights.length - 1));
  const outline = props.face ? faces[props.face].text : ink;
  const label = labelOf(rep, props.weights);
  return (
    <Box
      component={props.onOpen ? "button" : "span"}
      {...(props.onOpen
        ? { type: "button", onClick: props.onOpen, "aria-label": `Correct: ${label}` }
        : { role: "img", "aria-label": label })}
      title={label}
      sx={{
        flex: "none",
        width: props.onOpen ? 30 : 20,
        height: props.onOpen ? 40 : 22,
        p: 0,
        border: 0,
        background: "none",
        cursor: props.onOpen ? "pointer" : "default",
        display: "inline-grid",
        placeItems: "center",
      }}
    >
      <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true">
        <circle
          cx="9"
          cy="9"
          r="7.5"
          fill={rep.outcome === "gave" ? colour : "none"}
          stroke={outline}
          strokeWidth="1.6"
        />
        {rep.outcome === "tried" && <path d="M9 1.5a7.5 7.5 0 0 0 0 15z" fill={colour} />}
        {rep.faults.length > 0 && <path d="M9 0v4" stroke={outline} strokeWidth="2.4" />}
      </svg>
    </Box>
  );
}
