import Box from "@mui/material/Box";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { put, useOutbox, type Item } from "../offline/outbox";
import { pine } from "../theme/tokens";
import { newId } from "./ids";
import { useMe } from "./me";
import { PassForm } from "./pass-form";

type Waiting = Extract<Item, { kind: "pass" }>;

/** Passes of a horse that are on this device only. Once one is sent, what is known of the horse is read again. */
export function useWaitingPasses(horse: string): Waiting[] {
  const client = useQueryClient();
  const { waiting } = useOutbox();
  const mine = waiting.filter((item) => item.kind === "pass").filter((item) => item.horse === horse);
  const before = useRef(mine.length);
  useEffect(() => {
    if (mine.length < before.current) {
      void client.invalidateQueries({ queryKey: ["horse", horse] });
      void client.invalidateQueries({ queryKey: ["event"] });
    }
    before.current = mine.length;
  }, [client, horse, mine.length]);
  return mine;
}

/** Logs passes over a set-up. Each is kept on the device first, and sent as soon as that works. */
export function LogPass(props: {
  horse: string;
  setUp: Schemas["SetUpOut"];
  units: Schemas["Units"];
  ride?: Schemas["RideDetail"];
  gait?: Schemas["Gait"];
}) {
  const { horse, setUp, ride } = props;
  const { today } = useMe();
  const [logged, setLogged] = useState(0);
  const [gait, setGait] = useState<Schemas["Gait"]>(props.gait ?? "jog");
  const unsent = useWaitingPasses(horse).length;
  return (
    <PassForm
      // The next pass begins on an empty form, at the same gait.
      key={logged}
      name="Log a pass"
      horse={horse}
      setUp={setUp.set_up}
      units={props.units}
      begin={{ gait, barrels: setUp.set_up.barrels.map(() => ({})), behind: [], seconds: null, note: "" }}
      action="Log the pass"
      onSubmit={({ gait, ...told }) => {
        const body = {
          set_up_id: setUp.id,
          ride_id: ride?.id ?? null,
          rider_id: ride?.rider_id ?? null,
          on: ride?.date ?? today,
          gait,
          told,
          set_up: setUp.set_up,
        };
        put({ kind: "pass", ride: ride?.id ?? null, rep: newId(), horse, body });
        setGait(gait);
        setLogged(logged + 1);
      }}
    >
      {logged > 0 && (
        <Box role="status" sx={{ color: pine, fontWeight: 650 }}>
          {logged === 1 ? "The pass is logged." : `${logged} passes are logged.`}
          {unsent > 0 && " Not sent yet: kept on this device."}
        </Box>
      )}
    </PassForm>
  );
}
