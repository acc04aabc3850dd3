import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { denim, inkSoft, oxblood, rule, sageDark } from "../../theme/tokens";
import { angle, holdColour, holdWord, newtons } from "./tack-words";

const words: Record<Schemas["Weight"], string> = {
  none: "nothing",
  feather: "a feather",
  egg: "an egg",
  lemon: "a lemon",
  orange: "an orange",
  fingers: "two fingers",
  hand: "a full hand",
  tug: "a tug",
};

/** What a hand's weight comes to, in newtons and in the trade's words. */
export function HeldFacts(props: { held: Schemas["HeldOut"]; hung?: Schemas["HungOut"] | null }) {
  const { held, hung } = props;
  const reins = 2 * held.weight;
  const mouth = Math.hypot(held.back, held.up);
  // Under a lemon the newtons mean little: friction and the bit's own weight are left out.
  const light = hung !== null && hung !== undefined && held.weight < 0.7;
  const rows: [string, number, string][] = held.nose
    ? [
        ["On the nose", held.nose, oxblood],
        ["Under the jaw", held.jaw, denim],
      ]
    : [
        ["In the mouth", mouth, oxblood],
        ...(hung
          ? ([
              ["On the chin", held.curb, denim],
              ["On the poll, about", held.poll, sageDark],
            ] as [string, number, string][])
          : []),
      ];
  return (
    <Box>
      <Typography sx={{ fontSize: "1.1rem" }}>
        With <b>{words[held.word]}</b> on each rein ({newtons(held.weight)})
        {hung && (
          <>
            {" "}
            the shank turns <b>{angle(held.turn)}</b> and the strap is <b>{held.tight ? "tight" : "slack"}</b>
          </>
        )}
        .
      </Typography>
      {light && !held.tight ? (
        <Typography sx={{ color: inkSoft }}>So light that only the turn counts.</Typography>
      ) : (
        rows.map(([name, force, colour]) => (
          <Box
            key={name}
            sx={{
              display: "grid",
              gridTemplateColumns: "minmax(0, 1fr) 90px 110px",
              alignItems: "baseline",
              borderTop: `1px solid ${rule}`,
              py: 0.5,
            }}
          >
            <Box component="span" sx={{ color: colour, fontWeight: 650 }}>
              {name}
            </Box>
            <b>{newtons(force)}</b>
            <Box component="span" sx={{ color: inkSoft }}>
              {(force / reins).toFixed(1)} × the reins
            </Box>
          </Box>
        ))
      )}
    </Box>
  );
}

/** When the strap takes hold, and what an eighth of an inch makes of it. */
export function StrapFacts({ hung }: { hung: Schemas["HungOut"] }) {
  const edge = (strap: Schemas["StrapOut"]) =>
    strap.tight === null || strap.tight === undefined ? "never" : angle(strap.tight);
  return (
    <Box>
      <Typography sx={{ fontSize: "1.1rem", fontWeight: 700, color: holdColour(hung.takes_hold) }}>
        {hung.tight === null || hung.tight === undefined
          ? "The strap never takes hold"
          : `The strap ${holdWord[hung.takes_hold]}, at ${angle(hung.tight)}`}
      </Typography>
      <Typography sx={{ "&::first-letter": { textTransform: "uppercase" } }}>{hung.means}.</Typography>
      <Typography sx={{ color: inkSoft }}>
        An eighth of an inch less: {edge(hung.less)}. More: {edge(hung.more)}. Levers:{" "}
        {hung.lever_by_length.toFixed(1)} by length, {hung.lever_at_rest.toFixed(1)} at rest
        {hung.lever_tight ? `, ${hung.lever_tight.toFixed(1)} where it holds` : ""}.
      </Typography>
    </Box>
  );
}
