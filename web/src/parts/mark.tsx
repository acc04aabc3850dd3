import Box from "@mui/material/Box";
import { denim, ink, inkSoft, marigold, oxblood, paper, rule, sage, sageDark, white } from "../theme/tokens";
import type { Schemas } from "../api/client";

const looks = {
  advance: { word: "Advance", sign: "▲", background: sageDark, color: white },
  hold: { word: "Hold", sign: "■", background: paper, color: ink },
  back: { word: "Back", sign: "▼", background: oxblood, color: white },
  "look-at": { word: "Look at", sign: "◆", background: marigold, color: ink },
  "leave-alone": { word: "Leave alone", sign: "●", background: inkSoft, color: white },
} as const;

/** A call in a word. */
export const callWord = (call: Schemas["Call"]) => looks[call].word;

/** A call as a stamp: word, sign and colour together. */
export function CallStamp({ call }: { call: Schemas["Call"] }) {
  const look = looks[call];
  return (
    <Box
      component="span"
      sx={{
        display: "inline-flex",
        gap: 0.75,
        alignItems: "center",
        px: 1,
        py: 0.25,
        fontWeight: 700,
        fontSize: "0.9rem",
        border: `1.5px solid ${call === "hold" ? ink : look.background}`,
        background: look.background,
        color: look.color,
        whiteSpace: "nowrap",
      }}
    >
      <span aria-hidden="true" style={{ fontSize: "0.65rem" }}>
        {look.sign}
      </span>
      {look.word}
    </Box>
  );
}

const statuses = {
  owned: { word: "Owned", color: sageDark, fill: sage },
  learning: { word: "In work", color: denim, fill: denim },
  slipping: { word: "Slipping", color: oxblood, fill: oxblood },
  untried: { word: "Not begun", color: inkSoft, fill: rule },
} as const;

export const statusWord = (status: Schemas["Status"]) => statuses[status].word;

/** Where a step stands, as a word with a mark. */
export function StatusMark({ status }: { status: Schemas["Status"] }) {
  const look = statuses[status];
  const shape = { owned: "50%", learning: "0", slipping: "0", untried: "50%" }[status];
  return (
    <Box
      component="span"
      sx={{
        display: "inline-flex",
        alignItems: "center",
        gap: 0.75,
        color: look.color,
        fontWeight: 650,
        whiteSpace: "nowrap",
      }}
    >
      <Box
        component="span"
        aria-hidden="true"
        sx={{
          width: 10,
          height: 10,
          borderRadius: shape,
          transform: status === "slipping" ? "rotate(45deg)" : "none",
          background: status === "untried" ? "transparent" : look.fill,
          border: `2px solid ${status === "untried" ? inkSoft : look.fill}`,
        }}
      />
      {look.word}
    </Box>
  );
}

const halves = { owned: sage, learning: denim, slipping: oxblood, untried: "transparent" } as const;

/** Two half-dots, left and right: one step of a horse. Filled when owned, a bar when in work, crossed when slipping. */
export function HalfDots({
  left,
  right,
  size = 18,
}: {
  left: Schemas["Status"];
  right: Schemas["Status"];
  size?: number;
}) {
  return (
    <svg viewBox="0 0 20 20" width={size} height={size} aria-hidden="true" style={{ flex: "none" }}>
      <HalfDot status={left} left />
      <HalfDot status={right} />
      <line x1="10" x2="10" y1="0.5" y2="19.5" stroke={paper} strokeWidth="2" />
    </svg>
  );
}

function HalfDot({ status, left = false }: { status: Schemas["Status"]; left?: boolean }) {
  const path = left ? "M10 1.5a8.5 8.5 0 0 0 0 17z" : "M10 1.5a8.5 8.5 0 0 1 0 17z";
  const fill = status === "owned" || status === "slipping" ? halves[status] : "transparent";
  const edge = status === "untried" ? rule : halves[status];
  return (
    <>
      <path d={path} fill={fill} stroke={edge} strokeWidth="1.8" />
      {status === "learning" && <rect x={left ? 4.5 : 12} y="8.6" width="3.5" height="2.8" fill={denim} />}
      {status === "slipping" && (
        <path
          d={left ? "M4.5 7.5l4 5M8.5 7.5l-4 5" : "M11.5 7.5l4 5M15.5 7.5l-4 5"}
          stroke={white}
          strokeWidth="1.6"
        />
      )}
    </>
  );
}
