import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { layoffsOf } from "../../api/queries";
import { newId } from "../../parts/ids";
import { useMe } from "../../parts/me";
import { day, many } from "../../parts/words";
import { ink, inkSoft, marigold, oxblood, paper, pine, rule, white } from "../../theme/tokens";
import { bind, FormDialog, Pick } from "../barn/form";

type LayOff = Schemas["LayOffOut"];

const whyName: Record<Schemas["OffReason"], string> = {
  rest: "Turned out, or nobody to ride it",
  injury: "Injury",
  sickness: "Sickness",
};
const stageName: Record<Schemas["ComebackStage"], string> = {
  off: "Off",
  "in-hand": "In hand",
  walk: "Walk",
  jog: "Jog",
  lope: "Lope",
};

/** Time off, and the way back by days. */
export function LayOffs({ horse }: { horse: string }) {
  const me = useMe();
  const { data } = useQuery(layoffsOf(horse));
  const [writing, setWriting] = useState<LayOff | "new" | null>(null);
  const mayWrite = me.role !== "owner";
  if (!data || (data.items.length === 0 && !mayWrite)) return null;
  const [latest] = data.items;
  const now = latest?.today ? latest : undefined;
  return (
    <Box component="section" aria-labelledby="layoffs">
      <Typography variant="h2" id="layoffs" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        Time off
      </Typography>
      {now ? (
        <WayBack layoff={now} today={me.today} />
      ) : (
        <Typography sx={{ color: inkSoft, my: 1 }}>
          {latest
            ? `Last off for ${many(latest.days_off, "day")}, back since ${day(latest.back_on)}.`
            : "None noted."}
        </Typography>
      )}
      {mayWrite && (
        <Button variant="outlined" onClick={() => setWriting(now ?? "new")}>
          {now ? "Change" : "Note time off"}
        </Button>
      )}
      {writing && (
        <LayOffForm
          horse={horse}
          kept={writing === "new" ? null : writing}
          today={me.today}
          onClose={() => setWriting(null)}
        />
      )}
    </Box>
  );
}

/** The stages with their days, the one of today marked. */
function WayBack({ layoff, today }: { layoff: LayOff; today: string }) {
  return (
    <Box sx={{ my: 1, display: "grid", gap: 1 }}>
      <Typography sx={{ fontWeight: 650 }}>{layoff.today?.says}.</Typography>
      {layoff.today?.vet_asked && (
        <Typography role="alert" sx={{ background: oxblood, color: white, p: 1, fontWeight: 650 }}>
          A vet has not said yet that it may work. Rides wait for that.
        </Typography>
      )}
      <Box
        component="ol"
        aria-label="The way back"
        sx={{
          listStyle: "none",
          p: 0,
          m: 0,
          display: "grid",
          gap: "2px",
          gridTemplateColumns: `repeat(${layoff.stages.length}, minmax(0, 1fr))`,
        }}
      >
        {layoff.stages.map((s) => {
          const here = s.from <= today && today <= s.to;
          return (
            <Box
              component="li"
              key={s.stage}
              aria-current={here ? "step" : undefined}
              sx={{
                background: here ? pine : paper,
                color: here ? white : ink,
                borderTop: `4px solid ${s.to < today ? marigold : here ? pine : rule}`,
                p: 0.75,
              }}
            >
              <b>{stageName[s.stage]}</b>
              <Box sx={{ fontSize: "0.88rem" }}>from {day(s.from)}</Box>
            </Box>
          );
        })}
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Off {many(layoff.days_off, "day")} since {day(layoff.off_since)}. Full work from {day(layoff.until)}.
        Where a vet says otherwise, the vet's plan holds.
        {layoff.vet_said && ` The vet: ${layoff.vet_said}`}
      </Typography>
    </Box>
  );
}

function LayOffForm(props: { horse: string; kept: LayOff | null; today: string; onClose: () => void }) {
  const { horse, kept } = props;
  const client = useQueryClient();
  const [id] = useState(() => kept?.id ?? newId());
  const [form, setForm] = useState({
    off_since: kept?.off_since ?? "",
    back_on: kept?.back_on ?? props.today,
    why: kept?.why ?? "rest",
    vet_said: kept?.vet_said ?? "",
  });
  const [agrees, setAgrees] = useState(kept?.vet_agrees ?? false);
  const save = useMutation({
    mutationFn: (ended: boolean) =>
      ask(
        api.PUT("/api/horses/{horse}/layoffs/{id}", {
          params: { path: { horse, id } },
          body: {
            ...form,
            version: kept?.version ?? null,
            why: form.why as Schemas["OffReason"],
            vet_agrees: agrees,
            ended,
          },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries();
      props.onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  const shrink = { inputLabel: { shrink: true } };
  return (
    <FormDialog
      title="Time off"
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(false)}
      onClose={props.onClose}
      more={
        kept && (
          <Button variant="outlined" onClick={() => save.mutate(true)}>
            Back in full work
          </Button>
        )
      }
    >
      <TextField {...field("off_since", "First day off")} type="date" slotProps={shrink} autoFocus />
      <TextField {...field("back_on", "First day back")} type="date" slotProps={shrink} />
      <Pick {...field("why", "Why")} options={Object.entries(whyName)} />
      {form.why !== "rest" && (
        <>
          <FormControlLabel
            control={<Checkbox checked={agrees} onChange={(e) => setAgrees(e.target.checked)} />}
            label="A vet has said that it may work"
          />
          <TextField {...field("vet_said", "What the vet said")} multiline minRows={2} />
        </>
      )}
    </FormDialog>
  );
}
