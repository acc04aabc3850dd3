import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Panel } from "../../parts/panel";
import { inkSoft, oxblood, rule } from "../../theme/tokens";
import { pullName } from "./chip";
import { known } from "./known";
import type { Week } from "./use-week";

/** How many works are shown before the rest is asked for. */
const FIRST = 8;

/** What was left out of the week and why: horses short of their rides first, then what would be worth most. */
export function Tray(props: {
  week: Week;
  mayChange: boolean;
  carrying: string | null;
  onTake: (work: string | null) => void;
}) {
  const { week } = props;
  const [all, setAll] = useState(false);
  const planned = new Map<string, number>();
  for (const r of week.rides) planned.set(r.work, (planned.get(r.work) ?? 0) + 1);
  const worth = (id: string) => known(week.works, id)?.worth[planned.get(id) ?? 0] ?? 0;
  const left = [...week.judged.left_out].sort((a, b) => worth(b.work) - worth(a.work));
  const shown = all ? left : left.slice(0, FIRST);
  const nameOf = (id: string) => known(week.horses, id)?.name ?? "?";
  return (
    <Panel by="tray">
      <Typography variant="h2" id="tray">
        Left out
      </Typography>
      {week.judged.short.map((s) => (
        <Box key={s.horse_id} sx={{ borderLeft: `5px solid ${oxblood}`, pl: 1.25, my: 1 }}>
          <b>
            {nameOf(s.horse_id)} has {s.rides} of {s.least} rides
          </b>
          <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>{s.why}</Typography>
        </Box>
      ))}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {shown.map((l) => {
          const work = known(week.works, l.work);
          if (!work) return null;
          const taken = props.carrying === l.work;
          return (
            <Box
              component="li"
              key={l.work}
              sx={{
                display: "flex",
                gap: 1,
                alignItems: "center",
                py: 0.5,
                borderBottom: `1px solid ${rule}`,
              }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <b>{nameOf(work.horse_id)}</b>: {work.name}
                <Box component="span" sx={{ color: inkSoft, fontSize: "0.92rem", display: "block" }}>
                  {l.missed > 1 ? `${l.missed} more rides` : "one more ride"},{" "}
                  {work.motive ? pullName[work.motive] : ""}, worth {worth(l.work)}: {l.why}
                </Box>
              </Box>
              {props.mayChange && (
                <Button
                  size="small"
                  variant="outlined"
                  aria-pressed={taken}
                  onClick={() => props.onTake(taken ? null : l.work)}
                >
                  {taken ? "Cancel" : "Add"}
                </Button>
              )}
            </Box>
          );
        })}
      </Box>
      {left.length === 0 && week.judged.short.length === 0 && (
        <Typography sx={{ color: inkSoft }}>Nothing: every work has its rides.</Typography>
      )}
      {left.length > shown.length && (
        <Button onClick={() => setAll(true)} sx={{ mt: 0.5 }}>
          {left.length - shown.length} more
        </Button>
      )}
    </Panel>
  );
}
