import type { Schemas } from "../../api/client";
import { positionName } from "../../parts/cattle-words";

const wayName = { left: "Left", right: "Right" } as const;

/** What to begin with: how fast a cow the horse holds each way, and how far outside. Nothing before its first turns. */
export function HowFar({ limits }: { limits: Schemas["LimitOut"][] }) {
  const seen = limits.filter((limit) => limit.turns > 0);
  if (seen.length === 0) return null;
  return (
    <span>
      {seen.map((limit) => (
        <span key={limit.way} style={{ display: "block" }}>
          <b>{wayName[limit.way]}:</b> holds a cow of about {limit.limit.toFixed(0)} ft/s
          {limit.held && `, head ${positionName[limit.held].toLowerCase()}`}
          {limit.next &&
            `; next ${positionName[limit.next].toLowerCase()}, ${limit.seen[0]} of ${limit.seen[1]} right`}
          .
        </span>
      ))}
    </span>
  );
}
