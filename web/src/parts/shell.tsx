import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { Suspense, useState } from "react";
import { Link, Outlet, useLocation } from "react-router";
import { bone, boneSoft, ink, marigold, slab } from "../theme/tokens";
import {
  BarnIcon,
  CattleIcon,
  BookIcon,
  HorseIcon,
  PatternIcon,
  TackIcon,
  TodayIcon,
  WeekIcon,
} from "./icons";
import { DeviceNote } from "./device-note";
import { useKeys } from "./keys";
import { onDemand } from "./on-demand";
import { OutboxNote } from "./outbox-note";
import { PageLoading } from "./states";
import { HorseString, useStringWalk } from "./string";

const KeyList = onDemand(() => import("./key-list").then((m) => m.KeyList));

const pages = [
  { to: "/", name: "Today", icon: TodayIcon, holds: (path: string) => path === "/" },
  { to: "/horses", name: "Horse", icon: HorseIcon, holds: (path: string) => path.startsWith("/horses") },
  { to: "/week", name: "Week", icon: WeekIcon, holds: (path: string) => path.startsWith("/week") },
  {
    to: "/patterns",
    name: "Patterns",
    icon: PatternIcon,
    holds: (path: string) => path.startsWith("/patterns"),
  },
  {
    to: "/cattle",
    name: "Cattle",
    icon: CattleIcon,
    holds: (path: string) => path.startsWith("/cattle"),
  },
  { to: "/tack", name: "Tack", icon: TackIcon, holds: (path: string) => path.startsWith("/tack") },
  { to: "/book", name: "Book", icon: BookIcon, holds: (path: string) => path.startsWith("/book") },
  { to: "/barn", name: "Barn", icon: BarnIcon, holds: (path: string) => path.startsWith("/barn") },
];

const shortcuts: [string, string][] = [
  ["[ and ]", "walk along today's string"],
  ["t", "Today"],
  ["h", "horses"],
  ["o", "who owns what"],
  ["a", "alarms"],
  ["w", "the week"],
  ["p", "patterns"],
  ["c", "tack"],
  ["l", "cattle"],
  ["k", "the Book"],
  ["b", "the barn"],
  ["s", "log in shorthand"],
  ["m and r", "in Figures: mirror, play"],
  ["?", "this list"],
  ["F and J, held", "in Ride: ask left, ask right"],
  ["space, held", "in Ride: both reins"],
  ["G T N", "in Ride: gave, tried, none"],
  ["1 to 8", "in Ride: the weight, lightest first"],
  ["U", "in Ride: undo the last rep"],
];

/** The frame of every page but Ride: the rail, the string, and the page. */
export function Shell() {
  const { pathname } = useLocation();
  const [help, setHelp] = useState(false);
  const walk = useStringWalk();
  useKeys({
    "?": () => setHelp(true),
    "[": () => walk(-1),
    "]": () => walk(1),
    t: "/",
    h: "/horses",
    o: "/horses/owned",
    a: "/horses/alarms",
    w: "/week",
    p: "/patterns",
    c: "/tack",
    l: "/cattle",
    k: "/book",
    b: "/barn",
    s: "/shorthand",
  });
  return (
    <Box
      sx={{
        display: "grid",
        minHeight: "100dvh",
        gridTemplateColumns: { xs: "1fr", sm: "84px minmax(0, 1fr)" },
        gridTemplateRows: "auto 1fr",
      }}
    >
      <Box
        component="nav"
        aria-label="Pages"
        sx={{
          background: ink,
          color: bone,
          gridRow: { sm: "1 / span 2" },
          display: "flex",
          flexDirection: { xs: "row", sm: "column" },
          position: { xs: "fixed", sm: "sticky" },
          bottom: { xs: 0, sm: "auto" },
          top: { sm: 0 },
          left: 0,
          right: { xs: 0, sm: "auto" },
          height: { xs: 64, sm: "100dvh" },
          zIndex: 5,
        }}
      >
        <Typography
          component="span"
          sx={{
            display: { xs: "none", sm: "block" },
            fontFamily: slab,
            fontWeight: 700,
            textAlign: "center",
            pt: 2,
            pb: 2,
            fontSize: "0.82rem",
            letterSpacing: "0.02em",
          }}
        >
          Cavesson
        </Typography>
        {pages.map(({ to, name, icon: Icon, holds }) => {
          const here = holds(pathname);
          return (
            <Box
              key={to}
              component={Link}
              to={to}
              aria-current={here ? "page" : undefined}
              sx={{
                flex: { xs: 1, sm: "none" },
                minHeight: 64,
                display: "flex",
                flexDirection: "column",
                alignItems: "center",
                justifyContent: "center",
                gap: 0.25,
                py: 1,
                color: here ? bone : boneSoft,
                textDecoration: "none",
                fontSize: "0.9rem",
                fontWeight: here ? 700 : 500,
                boxShadow: here
                  ? { xs: `inset 0 4px 0 ${marigold}`, sm: `inset 5px 0 0 ${marigold}` }
                  : "none",
                "&:hover": { color: bone },
              }}
            >
              <Icon />
              {name}
            </Box>
          );
        })}
        <Box
          component="button"
          type="button"
          onClick={() => setHelp(true)}
          aria-label="Shortcuts"
          sx={{
            display: { xs: "none", sm: "block" },
            mt: "auto",
            mb: 2,
            mx: "auto",
            width: 44,
            height: 44,
            background: "none",
            border: `1.5px solid ${boneSoft}`,
            color: bone,
            font: "inherit",
            fontWeight: 700,
            cursor: "pointer",
          }}
        >
          ?
        </Box>
      </Box>
      <HorseString />
      <Box component="main" sx={{ minWidth: 0, px: { xs: 2, sm: 3 }, py: 2.5, pb: { xs: 10, sm: 4 } }}>
        <OutboxNote />
        <DeviceNote />
        <Suspense fallback={<PageLoading what="the page" />}>
          <Outlet />
        </Suspense>
      </Box>
      {help && (
        <Suspense fallback={null}>
          <KeyList title="Shortcuts" keys={shortcuts} onClose={() => setHelp(false)} />
        </Suspense>
      )}
    </Box>
  );
}
