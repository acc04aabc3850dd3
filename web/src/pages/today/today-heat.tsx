import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { weather } from "../../api/queries";
import { HeatLine } from "../../parts/heat";
import { useMe } from "../../parts/me";
import { numbers } from "../../parts/numbers";
import { FormTrouble } from "../../parts/states";
import { inkSoft } from "../../theme/tokens";

/** The heat of today, as the weather service has it or as it was read off the wall. */
export function TodayHeat() {
  const me = useMe();
  const metric = me.barn.units === "metric";
  const client = useQueryClient();
  const { data } = useQuery(weather);
  const [typing, setTyping] = useState(false);
  const [degrees, setDegrees] = useState("");
  const [humidity, setHumidity] = useState("");
  const save = useMutation({
    mutationFn: async () => {
      const read = numbers({ degrees, humidity });
      const air = { degrees: read.degrees ?? 0, humidity: read.humidity ?? 0 };
      return ask(api.PUT("/api/weather", { body: { ...air, scale: metric ? "celsius" : "fahrenheit" } }));
    },
    onSuccess: (now) => {
      client.setQueryData(weather.queryKey, now);
      void client.invalidateQueries({ queryKey: ["ride"] });
      setTyping(false);
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
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
        <Box
          component="form"
          onSubmit={(e) => (e.preventDefault(), save.mutate())}
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}
        >
          <TextField
            autoFocus
            label={metric ? "°C" : "°F"}
            value={degrees}
            onChange={(e) => setDegrees(e.target.value)}
            error={!!refused?.field("degrees")}
            helperText={refused?.field("degrees")}
            sx={{ width: 110 }}
          />
          <TextField
            label="Humidity %"
            value={humidity}
            onChange={(e) => setHumidity(e.target.value)}
            error={!!refused?.field("humidity")}
            helperText={refused?.field("humidity")}
            sx={{ width: 130 }}
          />
          <Button type="submit" variant="contained" disabled={!degrees || !humidity || save.isPending}>
            Save
          </Button>
          <Button onClick={() => setTyping(false)}>Cancel</Button>
          {!refused?.problem.errors?.length && <FormTrouble error={save.error} />}
        </Box>
      )}
    </Box>
  );
}
