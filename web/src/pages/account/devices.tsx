import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { sessions } from "../../api/queries";
import { deviceSafety } from "../../offline/device";
import { FormTrouble } from "../../parts/states";
import { moment } from "../../parts/words";
import { inkSoft, rule } from "../../theme/tokens";

/** Where one is signed in, each ended by itself. */
export function Devices() {
  const client = useQueryClient();
  const { data, error } = useQuery(sessions);
  const end = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/sessions/{id}", { params: { path: { id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["sessions"] }),
  });
  const safety = useQuery({
    queryKey: ["device", "safety"],
    queryFn: deviceSafety,
    networkMode: "always",
  }).data;
  return (
    <Box component="section" aria-label="Devices">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Signed in on
      </Typography>
      <FormTrouble error={error ?? end.error} />
      {data?.items.map((d) => (
        <Box
          key={d.id}
          sx={{
            display: "flex",
            gap: 2,
            alignItems: "center",
            flexWrap: "wrap",
            borderBottom: `1px solid ${rule}`,
            py: 0.75,
            minHeight: 52,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 200 }}>
            <b>{d.device}</b>
            {d.barn_phone && ", stays signed in"}
            <Box component="span" sx={{ color: inkSoft, display: "block" }}>
              since {moment(d.created_at)}, last used {moment(d.seen_at)}
            </Box>
          </Box>
          {d.this_one ? (
            <span>This device</span>
          ) : (
            <Button variant="outlined" disabled={end.isPending} onClick={() => end.mutate(d.id)}>
              Sign it out
            </Button>
          )}
        </Box>
      ))}
      <Box sx={{ color: inkSoft, mt: 1 }}>{safety}</Box>
    </Box>
  );
}
