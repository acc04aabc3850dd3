import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import { weather } from "../../api/queries";
import { HeatLine } from "../../parts/heat";
import { useMe } from "../../parts/me";
import { onDemand } from "../../parts/on-demand";
import { inkSoft } from "../../theme/tokens";

const WeatherForm = onDemand(() => import("./weather-form").then((m) => m.WeatherForm));

/** The heat of today, as the weather service has it or as it was read off the wall. */
export function TodayHeat() {
  const me = useMe();
  const { data } = useQuery(weather);
  const [typing, setTyping] = useState(false);
  return (
    <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1.5, minHeight: 44 }}>
      {data?.heat ? (
        <HeatLine heat={data.heat} />
      ) : (
        <Box sx={{ color: inkSoft }}>No temperature entered today.</Box>
      )}
      {me.role !== "owner" && !typing && (
        <Button onClick={() => setTyping(true)} sx={{ px: 0.75 }}>
          Enter the weather
        </Button>
      )}
      {typing && (
        <Suspense fallback={null}>
          <WeatherForm metric={me.barn.units === "metric"} onDone={() => setTyping(false)} />
        </Suspense>
      )}
    </Box>
  );
}
