import { ink, inkSoft, marigold, oxblood, paper, rule, sageDark } from "../../theme/tokens";
import type { Schemas } from "../../api/client";
import { placeName } from "../../parts/words";
import { keyOf, type Ride, type Week } from "./use-week";

export const pullName: Record<Schemas["Pull"], string> = {
  slipping: "slipping",
  next: "next on its ladder",
  "under-way": "under way",
  keep: "to keep",
  out: "a day out",
};
const edge: Record<Schemas["Pull"], string> = {
  slipping: oxblood,
  next: ink,
  "under-way": sageDark,
  keep: "#A89B83",
  out: marigold,
};

const shortPlace: Record<Schemas["Place"], string> = {
  "round-pen": "pen",
  arena: "arena",
  outside: "out",
  trail: "trail",
};

/** The heaviest load that the weight of the colour tells apart. */
const HEAVY = 90;

/** One ride in the grid: hour, horse, work; the edge says what draws it, the ground how heavy it is. */
export function Chip(props: {
  week: Week;
  ride: Ride;
  lane: "rider" | "place";
  selected: boolean;
  onSelect: () => void;
  onDrag: () => void;
  onKey: (event: React.KeyboardEvent) => void;
}) {
  const { week, ride, selected } = props;
  const work = week.works.find((w) => w.id === ride.work);
  const horse = week.horses.find((h) => h.id === work?.horse_id)?.name ?? "?";
  const rider = week.riders.find((r) => r.id === ride.rider)?.name ?? "?";
  const where = props.lane === "rider" ? shortPlace[ride.place] : (rider.split(" ")[0] ?? rider);
  const weight = Math.min(1, (work?.load ?? 0) / HEAVY);
  const name = work?.pull ? work.name : "Ridden";
  const said = `${ride.start} ${horse}: ${name}, ${placeName[ride.place]}, ${rider}, ${work?.minutes ?? 0} minutes, load ${work?.load ?? 0}`;
  return (
    <button
      type="button"
      className={ride.ridden ? "ride ridden" : "ride"}
      aria-label={`${said}${ride.locked ? ", locked" : ""}${ride.ridden ? ", ridden" : ""}`}
      aria-pressed={selected}
      data-ride={keyOf(ride)}
      draggable={!ride.ridden}
      onDragStart={props.onDrag}
      onClick={(e) => (e.stopPropagation(), props.onSelect())}
      onKeyDown={props.onKey}
      style={{
        borderLeftColor: work?.pull ? edge[work.pull] : inkSoft,
        background: ride.ridden
          ? "transparent"
          : `color-mix(in srgb, #D9B98A ${Math.round(weight * 62)}%, ${paper})`,
      }}
    >
      <span className="when">
        <span>{ride.start}</span>
        <span className="cut">{horse}</span>
        {ride.locked && !ride.ridden && <Lock />}
        {ride.ridden && <span aria-hidden="true">✓</span>}
      </span>
      <span className="cut what">
        <b>{where}</b> {name}
      </span>
    </button>
  );
}

/** How rides look: once for the whole grid, since there may be two hundred of them. */
export const chipStyles = {
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
    border: `1px solid ${rule}`,
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

function Lock() {
  return (
    <svg
      width="12"
      height="14"
      viewBox="0 0 12 14"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      aria-hidden="true"
    >
      <path d="M1.500 6.500h9v6.500h-9zM3.500 6.500v-2a2.500 2.500 0 0 1 5 0v2" />
    </svg>
  );
}
