import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { weather } from "../../api/queries";
import { numbers } from "../../parts/numbers";
import { FormTrouble } from "../../parts/states";

/** The weather as it was read off the wall. */
export function WeatherForm({ metric, onDone }: { metric: boolean; onDone: () => void }) {
  const client = useQueryClient();
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
      onDone();
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
  return (
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
      <Button onClick={() => onDone()}>Cancel</Button>
      {!refused?.problem.errors?.length && <FormTrouble error={save.error} />}
    </Box>
  );
}
