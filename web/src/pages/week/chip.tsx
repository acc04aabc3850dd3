import { memo } from "react";
import type { Schemas } from "../../api/client";
import { placeName } from "../../parts/words";
import { dust, ink, inkSoft, leatherSoft, marigold, oxblood, paper, sageDark } from "../../theme/tokens";
import { known } from "./known";
import { keyOf, type Ride, type Week } from "./use-week";

export const pullName: Record<Schemas["Motive"], string> = {
  slipping: "slipping",
  next: "next on its ladder",
  "under-way": "under way",
  keep: "to keep",
  out: "a day out",
};
const edge: Record<Schemas["Motive"], string> = {
  slipping: oxblood,
  next: ink,
  "under-way": sageDark,
  keep: dust,
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

/**
 * One ride in the grid: hour, horse, work; the edge says what draws it, the ground how heavy it is. What is done to it, the
 * grid hears: there may be two hundred of these.
 */
export const Chip = memo(function Chip(props: {
  works: Week["works"];
  horses: Week["horses"];
  riders: Week["riders"];
  ride: Ride;
  lane: "rider" | "place";
  selected: boolean;
}) {
  const { ride, selected } = props;
  const work = known(props.works, ride.work);
  const horse = known(props.horses, work?.horse_id)?.name ?? "?";
  const rider = known(props.riders, ride.rider)?.name ?? "?";
  const where = props.lane === "rider" ? shortPlace[ride.place] : (rider.split(" ")[0] ?? rider);
  const weight = Math.min(1, (work?.load ?? 0) / HEAVY);
  const name = work?.motive ? work.name : "Ridden";
  const said = `${ride.start} ${horse}: ${name}, ${placeName[ride.place]}, ${rider}, ${work?.minutes ?? 0} minutes, load ${work?.load ?? 0}`;
  return (
    <button
      type="button"
      className={ride.ridden ? "ride ridden" : "ride"}
      aria-label={`${said}${ride.locked ? ", locked" : ""}${ride.ridden ? ", ridden" : ""}`}
      aria-pressed={selected}
      data-ride={keyOf(ride)}
      draggable={!ride.ridden}
      style={{
        borderLeftColor: work?.motive ? edge[work.motive] : inkSoft,
        background: ride.ridden
          ? "transparent"
          : `color-mix(in srgb, ${leatherSoft} ${Math.round(weight * 62)}%, ${paper})`,
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
});

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
