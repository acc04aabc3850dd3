import Box from "@mui/material/Box";
import type { Schemas } from "../api/client";
import { marigold, oxblood, sageDark } from "../theme/tokens";
import { useMe } from "./me";

const colour: Record<Schemas["HeatOut"]["band"], string> = {
  fine: sageDark,
  sweats: sageDark,
  care: marigold,
  "no-hard-work": oxblood,
};
const word: Record<Schemas["HeatOut"]["band"], string> = {
  fine: "fine",
  sweats: "it will sweat",
  care: "care",
  "no-hard-work": "no hard work",
};

/** The heat with both indices and what it does to the ride. */
export function HeatLine({ heat }: { heat: Schemas["HeatOut"] }) {
  const metric = useMe().barn.units === "metric";
  const degrees = metric ? `${Math.round(heat.celsius)} °C` : `${Math.round(heat.fahrenheit)} °F`;
  return (
    <Box sx={{ borderLeft: `6px solid ${colour[heat.band]}`, pl: 1.25, py: 0.25 }}>
      <b>
        {degrees}, {heat.humidity}% humidity: {word[heat.band]}
      </b>{" "}
      <Box component="span" sx={{ display: { xs: "none", sm: "inline" } }}>
        (°F + % is {Math.round(heat.sum)}, temperature-humidity index {Math.round(heat.thi)}
        {heat.typed ? "" : ", from the weather service"})
      </Box>
      {heat.says && <div>{heat.says}.</div>}
    </Box>
  );
}
