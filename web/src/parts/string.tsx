import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { today } from "../api/queries";
import { useAfterPaint } from "./after-paint";
import { useOutbox } from "../offline/outbox";
import { bone, ink, inkSoft, marigold, marigoldDark, oxblood, paper, rule, sageDark } from "../theme/tokens";
import { clock } from "./words";

type TodayRide = Schemas["TodayRide"];

function markOf(ride: TodayRide, waiting: number): { word: string; color: string } {
  if (waiting > 0) return { word: `${waiting} to send`, color: marigoldDark };
  if (ride.ride.state === "closed") return { word: "done", color: sageDark };
  if (ride.ride.state === "open") return { word: "riding", color: marigoldDark };
  if (ride.horse?.call === "look-at") return { word: "look at", color: oxblood };
  if (ride.horse) return { word: "rest", color: inkSoft };
  if (ride.call === "back" || ride.slipping.length > 0) return { word: "slipping", color: oxblood };
  return { word: "ride", color: inkSoft };
}

/** Moves to the next or the last horse of today's string. */
export function useStringWalk() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { data } = useQuery(today);
  return (by: 1 | -1) => {
    const horses = data?.rides.map((r) => r.ride.horse_id) ?? [];
    if (horses.length === 0) return;
    const at = horses.findIndex((id) => pathname.startsWith(`/horses/${id}`));
    const next = at < 0 ? (by > 0 ? 0 : horses.length - 1) : (at + by + horses.length) % horses.length;
    void navigate(`/horses/${horses[next] ?? ""}`);
  };
}

/** As many horses as a large screen has room for. */
const ON_THE_SCREEN = 16;

/** The line, and what hangs on it: one style for all horses, which are many. */
const hung = {
  display: "flex",
  gap: 0.75,
  px: { xs: 1.5, sm: 3 },
  minWidth: "max-content",
  position: "relative",
  height: "100%",
  "&::before": {
    content: '""',
    position: "absolute",
    left: 0,
    right: 0,
    top: 13,
    borderTop: `3px solid ${ink}`,
  },
  "& > a": {
    position: "relative",
    mt: "20px",
    height: 54,
    px: 1.25,
    pt: 0.5,
    minWidth: 84,
    textDecoration: "none",
    color: ink,
    background: paper,
    border: `1.5px solid ${ink}`,
    lineHeight: 1.2,
    "&::before": {
      content: '""',
      position: "absolute",
      left: "50%",
      top: -8,
      height: 8,
      borderLeft: `2px solid ${ink}`,
    },
    "&:hover": { boxShadow: `inset 0 -4px 0 ${marigold}` },
    "&[aria-current]": { color: bone, background: ink },
  },
  "& b": { display: "block", fontWeight: 700, whiteSpace: "nowrap" },
  "& a > span": { display: "flex", justifyContent: "space-between", gap: 1.25, fontSize: "0.86rem" },
  "& a > span > span + span": { fontWeight: 650 },
} as const;

/** Today's horses in riding order, hung along the top of every page. */
export function HorseString() {
  const { data } = useQuery(today);
  const painted = useAfterPaint(data !== undefined);
  const { pathname } = useLocation();
  const { waiting } = useOutbox();
  const here = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    // Braces: in newer browsers this returns a promise, which an effect must not.
    here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [pathname, data, painted]);
  return (
    <Box
      component="nav"
      aria-label="Today's horses"
      sx={{
        minWidth: 0,
        height: 86,
        overflowX: "auto",
        overflowY: "hidden",
        scrollbarWidth: "none",
        position: "relative",
        borderBottom: `1px solid ${rule}`,
      }}
    >
      <Box sx={hung}>
        {data?.rides.length === 0 && <Box sx={{ pt: 4, color: inkSoft }}>No rides today.</Box>}
        {(painted ? data?.rides : data?.rides.slice(0, ON_THE_SCREEN))?.map((entry) => {
          const current = pathname.startsWith(`/horses/${entry.ride.horse_id}`);
          const mark = markOf(entry, waiting.filter((i) => i.ride === entry.ride.id).length);
          return (
            <Link
              key={entry.ride.id}
              ref={current ? here : undefined}
              to={`/horses/${entry.ride.horse_id}`}
              aria-current={current ? "true" : undefined}
            >
              <b>{entry.ride.horse_name}</b>
              <span>
                <span>{clock(entry.ride.starts_at)}</span>
                <span style={{ color: current ? bone : mark.color }}>{mark.word}</span>
              </span>
            </Link>
          );
        })}
      </Box>
    </Box>
  );
}
