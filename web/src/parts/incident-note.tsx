import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { incidentsOf } from "../api/queries";
import { oxblood, white } from "../theme/tokens";
import { day } from "./words";

export const mayRideWords: Record<Schemas["MayRide"], string> = {
  anyone: "Anyone may ride it.",
  trainer: "Only the trainer rides it.",
  nobody: "Nobody rides it until someone has looked: back to the ground.",
};

/** Who may not ride a horse since its last incident; nothing where anyone may. */
export function IncidentNote({ horse }: { horse: string }) {
  const { data } = useQuery(incidentsOf(horse));
  const last = data?.items[0];
  if (!last || last.may_ride === "anyone") return null;
  return (
    <Box role="alert" sx={{ background: oxblood, color: white, p: 1.5, fontWeight: 650 }}>
      It {last.kind === "hurt" ? "hurt itself" : last.kind} on {day(last.happened_on)} with {last.rider} up:{" "}
      {last.before}. {mayRideWords[last.may_ride]}
    </Box>
  );
}
