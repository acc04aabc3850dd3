import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { newId } from "../../parts/ids";
import { FOOT } from "../../parts/lengths";
import { setUpOf, type SetUp } from "./draft";

/** What rule books ask at the least, from memory: beside, behind the third, to stop. */
const ROOM = { beside: 15 * FOOT, behind: 25 * FOOT, stop: 45 * FOOT };
const USUAL = { entry: 4 * FOOT, back: 4 * FOOT, exit: 3 * FOOT };

/** What changes a set-up as a whole, and what keeps it: the fit, a file, and Save. */
export function useKept(props: {
  ground: string;
  kept: Schemas["SetUpOut"] | null;
  setUp: SetUp;
  onChange: (to: SetUp) => void;
  onKept: (id: string) => void;
}) {
  const { ground, kept, setUp } = props;
  const client = useQueryClient();
  const [room, setRoom] = useState<Schemas["Room"]>(ROOM);
  const [id] = useState(() => kept?.id ?? newId());
  const again = () => client.invalidateQueries({ queryKey: ["set-ups"] });
  const fit = useMutation({
    mutationFn: (lopsided: boolean) =>
      ask(
        api.POST("/api/patterns/fit", {
          body: {
            ground_id: ground,
            pocket: setUp.barrels[0]?.pocket ?? USUAL,
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
