import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useSearchParams } from "react-router";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { Empty } from "../../parts/states";
import { TodaysDraw } from "./draw";
import { Fence } from "./fence";
import { Flag } from "./flag";
import { Herd } from "./herd";
import { Practice } from "./practice";

const views = [
  ["herd", "Herd"],
  ["draw", "Today's draw"],
  ["fence", "Fence"],
  ["flag", "Flag"],
  ["practice", "Practice pen"],
] as const;

/** Cattle: the herd as it stands, and which cow for which horse today. */
export function Cattle() {
  const me = useMe();
  const [asked, setAsked] = useSearchParams();
  const view = views.find(([value]) => value === asked.get("view"))?.[0] ?? "herd";
  if (me.role === "owner")
    return <Empty>The herd is for whoever rides. Your horse's works stand on its page.</Empty>;
  return (
    <>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap", mb: 2 }}>
        <Typography variant="h1">Cattle</Typography>
        <OneOf label="View" of={views} picked={view} onPick={(view) => setAsked({ view })} />
      </Box>
      {view === "draw" ? (
        <TodaysDraw />
      ) : view === "fence" ? (
        <Fence />
      ) : view === "flag" ? (
        <Flag />
      ) : view === "practice" ? (
        <Practice />
      ) : (
        <Herd />
      )}
    </>
  );
}
