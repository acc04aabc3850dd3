import Box from "@mui/material/Box";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { people, rideChanged } from "../../api/queries";
import { FormTrouble } from "../../parts/states";
import { inkSoft, rule } from "../../theme/tokens";

/** Who rode a set, to be put right where the ride was handed over. */
export function SetRider(props: {
  ride: Schemas["RideDetail"];
  set: Schemas["SetOut"];
  mayCorrect: boolean;
}) {
  const { ride, set } = props;
  const client = useQueryClient();
  const { data } = useQuery(people());
  const give = useMutation({
    mutationFn: (rider_id: string) =>
      ask(api.PUT("/api/sets/{id}/rider", { params: { path: { id: set.id } }, body: { rider_id } })),
    onSuccess: () => rideChanged(client, ride.horse_id),
  });
  const rider = set.rider_id ?? ride.rider_id;
  const name = data?.items.find((p) => p.id === rider)?.name;
  if (!props.mayCorrect) return set.rider_id ? <span>by {name}</span> : null;
  return (
    <>
      <Box
        component="select"
        aria-label="Ridden by"
        value={rider}
        disabled={give.isPending}
        onChange={(e) => give.mutate((e.target as HTMLSelectElement).value)}
        sx={{
          font: "inherit",
          fontSize: "0.9rem",
          color: inkSoft,
          border: 0,
          borderBottom: `1px solid ${rule}`,
          background: "none",
          minHeight: 24,
        }}
      >
        {(data?.items ?? [{ id: ride.rider_id, name: ride.rider_name }]).map((p) => (
          <option key={p.id} value={p.id}>
            by {p.name}
          </option>
        ))}
      </Box>
      <FormTrouble error={give.error} />
    </>
  );
}
