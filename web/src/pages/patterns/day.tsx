import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { onTape } from "../../parts/lengths";
import { inkSoft, marigold, rule } from "../../theme/tokens";
import { spots, type SetUp } from "./draft";

const times = (n: number) => (n === 1 ? "once" : n === 2 ? "twice" : `${n} times`);
const gaitName: Record<Schemas["Gait"], string> = {
  stand: "Stand",
  walk: "Walk",
  jog: "Jog",
  lope: "Lope",
  run: "Run",
};

/** What of the pattern to ride today, with the pockets and why they are what they are. */
export function Day(props: {
  name: string;
  plan: Schemas["PatternToday"];
  setUp: SetUp;
  units: Schemas["Units"];
  onUse: (setUp: SetUp) => void;
}) {
  const { plan, units } = props;
  const use = (block: Schemas["BlockOut"]) =>
    props.onUse({
      ...props.setUp,
      barrels: props.setUp.barrels.map((b, n) => ({ ...b, pocket: block.pockets[n]?.pocket ?? b.pocket })),
    });
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      {plan.notes.map((note) => (
        <Box key={note} sx={{ borderLeft: `6px solid ${marigold}`, pl: 1.5, py: 0.5 }}>
          {note}.
        </Box>
      ))}
      {plan.blocks.length === 0 && <Typography>No pattern on {props.name} today.</Typography>}
      {plan.blocks.map((block) => (
        <Box key={block.gait} sx={{ borderTop: `1px solid ${rule}`, pt: 1 }}>
          <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "center", gap: 1 }}>
            <Typography variant="h3">
              {gaitName[block.gait]} it {times(block.passes)}, {block.rest} min of walking after each
            </Typography>
            <Button variant="outlined" onClick={() => use(block)}>
              Use these pockets
            </Button>
          </Box>
          <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 0, listStyle: "none" }}>
            {block.pockets.map((p) => (
              <li key={p.barrel}>
                <b>Barrel {p.barrel + 1}</b>: {spots.map((s) => onTape(units, p.pocket[s])).join(" / ")}
                {p.why && (
                  <Box component="span" sx={{ display: "block", color: inkSoft }}>
                    It {p.why}.
                  </Box>
                )}
              </li>
            ))}
          </Box>
        </Box>
      ))}
      <Typography sx={{ borderTop: `1px solid ${rule}`, pt: 1 }}>{plan.sit}.</Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>
        Few turns in one day: hocks and stifles do the work. Warm up before, and stop where a horse turns
        short of itself.
      </Typography>
    </Box>
  );
}
