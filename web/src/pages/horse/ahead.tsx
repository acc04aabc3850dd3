import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { forecast } from "../../api/queries";
import { useMe } from "../../parts/me";
import { day, many, percent } from "../../parts/words";
import { ink, inkSoft, marigold, paper, rule, sage } from "../../theme/tokens";

const shift = (date: string, days: number) =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** What the horse will own by a date, and when it will own each rung: a spread of dates. */
export function AheadPanel({ horse, onPick }: { horse: string; onPick: (step: string) => void }) {
  const me = useMe();
  const [by, setBy] = useState(() => shift(me.today, 28));
  const { data, error } = useQuery({ ...forecast(horse, by), enabled: by !== "" });
  return (
    <Box component="section" aria-labelledby="ahead" sx={{ minWidth: 0 }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "end", flexWrap: "wrap", mb: 1 }}>
        <Typography variant="h2" id="ahead" sx={{ flex: 1 }}>
          Ahead
        </Typography>
        <TextField
          type="date"
          label="What will it own by"
          value={by}
          onChange={(e) => setBy(e.target.value)}
          sx={{ width: 190 }}
          slotProps={{
            inputLabel: { shrink: true },
            htmlInput: { min: me.today, max: shift(me.today, 182) },
          }}
        />
      </Box>
      {error && <Typography role="alert">{error.message}</Typography>}
      {data && (
        <Typography sx={{ mb: 1 }}>
          It owns {many(data.owned, "step")} today; by {day(data.by)} likely <b>{data.likely} more</b>.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, borderTop: `2px solid ${ink}` }}>
        {data?.items.slice(0, 7).map((item) => (
          <AheadLine key={item.step} item={item} onPick={onPick} />
        ))}
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.9rem", mt: 0.75 }}>
        One in ten horses like this one is there by the first date, nine in ten by the last, at the days a
        week it was worked lately.
      </Typography>
    </Box>
  );
}

function AheadLine({ item, onPick }: { item: Schemas["AheadStep"]; onPick: (step: string) => void }) {
  const until = (date?: string | null) => (date ? day(date) : "not in sight");
  return (
    <Box component="li" sx={{ borderBottom: `1px solid ${rule}`, py: 0.75 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "baseline" }}>
        <Box
          component="button"
          type="button"
          onClick={() => onPick(item.step)}
          sx={{
            font: "inherit",
            fontWeight: 650,
            color: ink,
            background: "none",
            border: 0,
            p: 0,
            minHeight: 28,
            textAlign: "left",
            cursor: "pointer",
            flex: 1,
            "&:hover": { textDecoration: "underline" },
          }}
        >
          {item.name}
        </Box>
        <b>{percent(item.chance)}</b>
      </Box>
      <Box aria-hidden="true" sx={{ height: 6, background: rule, my: 0.25 }}>
        <Box sx={{ height: 6, width: `${item.chance * 100}%`, background: sage }} />
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>
        {until(item.early)} · <b>{until(item.middle)}</b> · {until(item.late)}
        {item.waits_for.length > 0 && <> · waits for {item.waits_for.join(" and ").toLowerCase()}</>}
        {item.moved && (
          <Box component="span" sx={{ color: ink, borderLeft: `4px solid ${marigold}`, pl: 0.75, ml: 1 }}>
            {item.moved}
          </Box>
        )}
      </Typography>
    </Box>
  );
}

/** Faults that the record ties to something, each with its counts and where to go; and what came of remedies. */
export function Faults({ faults, cures }: { faults: Schemas["FaultTold"][]; cures: Schemas["CureTold"][] }) {
  return (
    <Box component="section" aria-labelledby="faults" sx={{ minWidth: 0 }}>
      <Typography variant="h2" id="faults" sx={{ mb: 1 }}>
        Faults that follow something
      </Typography>
      {faults.length === 0 && (
        <Typography sx={{ color: inkSoft, borderTop: `2px solid ${ink}`, pt: 1 }}>
          None that chance does not explain as well, over the last four months: by gait, side, place, rider,
          bit, heat and time in the ride.
        </Typography>
      )}
      <Box sx={{ display: "grid", gap: 1 }}>
        {faults.map((f) => (
          <Box
            key={f.says}
            sx={{
              background: paper,
              border: `1px solid ${rule}`,
              borderLeft: `6px solid ${marigold}`,
              p: 1.25,
            }}
          >
            <b>{f.says}</b>
            <Typography>Likely: {f.likely}.</Typography>
            <Typography>
              To do: {f.remedy}. Go to{" "}
              <Link to={`/book/${f.go_to}`} style={{ color: ink, fontWeight: 650 }}>
                {f.go_to} {f.go_to_name.toLowerCase()}
              </Link>
            </Typography>
            <Typography sx={{ color: inkSoft, fontSize: "0.88rem" }}>
              Chance alone: {f.p < 0.001 ? "under 1 in 1000" : `${(f.p * 100).toFixed(1)}%`}, after{" "}
              {f.looked_at} looked at
            </Typography>
          </Box>
        ))}
      </Box>
      {cures.length > 0 && (
        <>
          <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>
            What remedies did
          </Typography>
          <Box component="ul" aria-label="What remedies did" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {cures.map((c) => (
              <Box
                component="li"
                key={`${c.fault} ${c.at}`}
                sx={{ borderTop: `1px solid ${rule}`, py: 0.75 }}
              >
                {c.says}
              </Box>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
