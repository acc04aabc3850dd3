import { ink, inkSoft, marigold, marigoldDark, paper, rule, slab } from "../../theme/tokens";

const line = `1px solid ${rule}`;

/** How the week looks: once for the whole grid, of which there may be hundreds of cells and rides. */
export const gridStyle = {
  overflowX: "auto",
  borderTop: `2px solid ${ink}`,
  borderBottom: `2px solid ${ink}`,
  ".days": { minWidth: 990 },
  ".row": { display: "grid", gridTemplateColumns: "84px repeat(7, minmax(128px, 1fr))" },
  // Lanes below the screen are not laid out before they are scrolled to.
  ".long": { contentVisibility: "auto", containIntrinsicSize: "auto 260px" },
  // As it is printed: all of it, with its names in full.
  "&.measured .long": { contentVisibility: "visible" },
  "&.measured .cut": { whiteSpace: "normal !important" },
  "@media print": {
    ".cut": { whiteSpace: "normal !important" },
    ".ride": { outline: "none !important" },
  },

  ".day": { px: 0.75, py: 0.5, borderLeft: line, minHeight: 52 },
  ".day.over": { color: inkSoft },
  ".day > b": { fontFamily: slab, fontWeight: 650 },
  ".day.today > b": { borderBottom: `4px solid ${marigold}` },
  ".hot": { display: "block", fontSize: "0.82rem", fontWeight: 600, color: marigoldDark },

  ".lane": { borderTop: line, py: 0.75, pr: 1, fontWeight: 650, lineHeight: 1.15 },
  ".lane > span": { display: "block", fontWeight: 400, color: inkSoft, fontSize: "0.84rem" },
  ".lane.soft": { fontWeight: 400, color: inkSoft },

  ".cell": {
    borderTop: line,
    borderLeft: line,
    p: "3px",
    minWidth: 0,
    minHeight: 62,
    "& > * + *": { mt: "3px" },
  },
  ".cell.besides": { minHeight: 0 },
  ".cell.over": {
    background: `repeating-linear-gradient(135deg, transparent 0 7px, ${rule}55 7px 8px)`,
  },
  ".off": { fontSize: "0.84rem", color: inkSoft, borderLeft: `3px solid ${marigold}`, pl: 0.5 },
  ".here": {
    font: "inherit",
    fontSize: "0.86rem",
    display: "block",
    width: "100%",
    minHeight: 30,
    border: `1.5px dashed ${ink}`,
    background: paper,
    cursor: "pointer",
  },

  ".besides > div": {
    borderLeft: `4px solid ${marigold}`,
    background: paper,
    px: 0.75,
    fontSize: "0.84rem",
    lineHeight: 1.25,
    overflowWrap: "anywhere",
  },
  ".besides > .show": { borderLeftColor: ink },
  ".who": { display: "block", color: inkSoft },

  ".ride": {
    font: "inherit",
    textAlign: "left",
    color: ink,
    display: "block",
    width: "100%",
    minWidth: 0,
    minHeight: 40,
    px: "7px",
    py: "3px",
    lineHeight: 1.2,
    cursor: "pointer",
    border: line,
    borderLeftWidth: 6,
    outlineOffset: "-1px",
  },
  ".ride.ridden": { borderStyle: "dashed" },
  '.ride[aria-pressed="true"]': { outline: `3px solid ${marigold}` },
  ".when": { display: "flex", gap: "5px", fontWeight: 700, fontSize: "0.92rem" },
  ".cut": { overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" },
  ".when .cut": { flex: 1 },
  ".what": { display: "block", fontSize: "0.84rem" },
} as const;
