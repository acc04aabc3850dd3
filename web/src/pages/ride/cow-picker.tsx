import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { freshColour, freshName, mannerName } from "../../parts/cattle-words";
import { gloveTarget, inkSoft, marigold, oxblood, paper, rule, slab, white } from "../../theme/tokens";

type Cow = Schemas["PickCow"];

/** The herd to pick from: those drawn for this horse on top. What is spared today is taken only with a reason in writing. */
export function CowPicker(props: {
  seen: Schemas["RideCattleOut"] | undefined;
  now: string | null;
  onPick: (cow: string, why: string | null) => void;
  onClose: () => void;
}) {
  const [asked, setAsked] = useState<Cow | null>(null);
  const [why, setWhy] = useState("");
  const cows = props.seen?.cows.filter((cow) => cow.id !== props.now) ?? [];
  const against = (cow: Cow) => (cow.with ? `${cow.with} is on it now` : cow.spared);
  return (
    <Dialog open fullScreen onClose={props.onClose} aria-labelledby="cow-title">
      <DialogContent>
        <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, mb: 1.5 }}>
          <Typography variant="h2" id="cow-title">
            {asked ? `${asked.tag} all the same?` : "Which cow?"}
          </Typography>
          <Button variant="outlined" onClick={asked ? () => setAsked(null) : props.onClose}>
            {asked ? "Another one" : "Back to the ride"}
          </Button>
        </Box>
        {asked ? (
          <Box
            component="form"
            onSubmit={(e) => (e.preventDefault(), props.onPick(asked.id, why.trim()))}
            sx={{ display: "grid", gap: 2, maxWidth: 520 }}
          >
            <Typography>
              {asked.tag}: {against(asked)}. A cow that is not well is for the vet.
            </Typography>
            <TextField
              label="Why it is worked all the same"
              value={why}
              onChange={(e) => setWhy(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 500 } }}
              autoFocus
            />
            <Button type="submit" variant="contained" disabled={!why.trim()}>
              Work it
            </Button>
          </Box>
        ) : cows.length === 0 ? (
          <Typography>
            {props.seen
              ? "The herd has no cows yet: add them under Cattle."
              : "The herd is not on this device yet. It comes with the first signal."}
          </Typography>
        ) : (
          <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(140px, 1fr))", gap: 1 }}>
            {cows.map((cow) => (
              <Box
                key={cow.id}
                component="button"
                type="button"
                onClick={() => (against(cow) ? setAsked(cow) : props.onPick(cow.id, null))}
                sx={{
                  font: "inherit",
                  textAlign: "left",
                  minHeight: gloveTarget + 24,
                  p: 1,
                  cursor: "pointer",
                  background: cow.drawn ? white : paper,
                  border: `2px solid ${cow.drawn ? marigold : rule}`,
                  borderLeft: `7px solid ${against(cow) ? oxblood : freshColour[cow.freshness]}`,
                }}
              >
                <Box component="span" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.35rem", mr: 1 }}>
                  {cow.tag}
                </Box>
                {cow.drawn && <b>drawn</b>}
                <Box sx={{ color: inkSoft, lineHeight: 1.2 }}>
                  {cow.looks}
                  <br />
                  {against(cow) ?? `${mannerName[cow.manner]}, ${freshName[cow.freshness].toLowerCase()}`}
                </Box>
              </Box>
            ))}
          </Box>
        )}
      </DialogContent>
    </Dialog>
  );
}
