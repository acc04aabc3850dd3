import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { figures } from "../../api/queries";
import { freshElseKept } from "../../offline/device";
import { chosenFigure } from "../../parts/figure-choice";

/** A figure that is ridden on this ride. */
export type RideFigure = { name: string; ridden: Schemas["RiddenOut"] | null };

/** The figure that the address names, ridden in the ride's place; none where it names none. */
export function useRideFigure(ride: Schemas["RideDetail"]): RideFigure | null {
  const [asked] = useSearchParams();
  const wanted = asked.get("figure");
  const all = useQuery({ ...figures, enabled: wanted !== null }).data;
  const figure = chosenFigure(all, wanted);
  const ground = ride.ground_id ?? null;
  const ridden = useQuery({
    queryKey: ["ride", ride.id, "figure", figure?.text, ground],
    queryFn: () =>
      freshElseKept(`${ride.id}/${wanted}`, () =>
        ask(
          api.POST("/api/figures/ride", {
            body: { text: figure?.text ?? "", ground_id: ground, horse_id: ride.horse_id },
          }),
        ),
      ),
    networkMode: "always",
    enabled: figure !== null,
    staleTime: Infinity,
  }).data?.ridden;
  return figure && { name: figure.name, ridden: ridden ?? null };
}
