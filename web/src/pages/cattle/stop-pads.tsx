import Box from "@mui/material/Box";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { flagProgramme } from "../../api/queries";
import { useCattleLog } from "../../parts/cattle-log";
import { Toggle } from "../../parts/toggle";
import { many } from "../../parts/words";
import { inkSoft } from "../../theme/tokens";

const feet = [-4, -2, -1, 0, 1, 2, 4] as const;
const named = (n: number) => (n === 0 ? "Even" : n < 0 ? `${-n} short` : `${n} past`);

/** The stop that just was, in one tap: feet short or past, and whether it was late or guessed. */
export function StopPads(props: { ride: string; half: number; at: number | null; still: boolean }) {
  const client = useQueryClient();
  const log = useCattleLog(props.ride, true);
  const [late, setLate] = useState(false);
  const [guessed, setGuessed] = useState(false);
  const stops = log.events.filter((e) => e.event.kind === "flag");
  const last = stops.at(-1);
  const { unsent } = log;
  useEffect(() => {
    if (unsent === 0) void client.invalidateQueries({ queryKey: flagProgramme(props.ride).queryKey });
  }, [client, unsent, props.ride]);
  const at = props.at ?? 0;
  const end = at < -props.half / 2 ? "left" : at > props.half / 2 ? "right" : "middle";
  const tap = (n: number) => {
    log.log({ kind: "flag", stop: { end, past: n * 10, late, guessed } });
    setLate(false);
    setGuessed(false);
  };
  const big = { minHeight: 56, flex: "1 1 60px", px: 1 };
  return (
    <Box role="group" aria-label="The last stop" sx={{ display: "grid", gap: "6px", mt: 1 }}>
      <Box sx={{ display: "flex", gap: "6px", flexWrap: "wrap" }}>
        <Toggle name="Late" on={late} onPress={() => setLate(!late)} sx={big} />
        <Toggle name="Guessed" on={guessed} onPress={() => setGuessed(!guessed)} sx={big} />
        <Toggle name="Undo" on={false} onPress={() => last && log.takeBack(last)} sx={big} />
      </Box>
      <Box sx={{ display: "flex", gap: "6px", flexWrap: "wrap" }}>
        {feet.map((n) => (
          <Toggle key={n} name={named(n)} on={false} onPress={() => tap(n)} sx={big} />
        ))}
      </Box>
      <Box sx={{ color: inkSoft }}>
        {many(stops.length, "stop")} logged{unsent > 0 && `, ${unsent} not sent yet`}. Feet of the
        horse&apos;s eye from the flag, the way it came.
      </Box>
    </Box>
  );
}
