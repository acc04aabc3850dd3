import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { FOOT } from "../../parts/lengths";
import { setUpOf, type SetUp } from "./draft";

/** What changes a set-up as a whole, and what keeps it: the fit, a file, and Save. */
export function useKept(props: {
  id: string;
  ground: string;
  pen: Schemas["PenOut"];
  kept: Schemas["SetUpOut"] | null;
  setUp: SetUp;
  onChange: (to: SetUp) => void;
  onKept: (id: string) => void;
}) {
  const { id, ground, kept, setUp } = props;
  const client = useQueryClient();
  const [room, setRoom] = useState(props.pen.usual_room);
  const again = () => client.invalidateQueries({ queryKey: ["set-ups"] });
  const fit = useMutation({
    mutationFn: (lopsided: boolean) =>
      ask(
        api.POST("/api/patterns/fit", {
          body: {
            ground_id: ground,
            pocket: setUp.barrels[0]?.pocket,
            first: setUp.barrels[0]?.turn ?? "right",
            lopsided,
            room,
          },
        }),
      ),
    onSuccess: (fitted) => props.onChange(fitted.set_up),
  });
  const open = useMutation({
    mutationFn: async (file: File) => setUpOf(await file.text()),
    onSuccess: props.onChange,
  });
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/set-ups/{id}", {
          params: { path: { id } },
          body: {
            version: kept?.version ?? null,
            ground_id: ground,
            name: kept?.name ?? nameOf(setUp),
            set_up: setUp,
          },
        }),
      ),
    onSuccess: async (now) => {
      await again();
      props.onKept(now.id);
    },
    // Someone changed it meanwhile: what is kept now is read, and a second Save goes over it knowingly.
    onError: () => void again(),
  });
  const changed = setUp.barrels.length > 0 && JSON.stringify(setUp) !== JSON.stringify(kept?.set_up);
  return { fit, open, save, changed, room, setRoom };
}

/** What a new set-up is called: how far its first two barrels are apart. */
function nameOf(setUp: SetUp): string {
  const [a, b] = setUp.barrels;
  if (!a || !b) return `${setUp.barrels.length} barrels`;
  const feet = Math.round(Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y) / FOOT);
  return `Barrels, ${feet} ft across, ${a.turn} first`;
}
