import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { passesOf } from "../../api/queries";
import { useWaitingPasses } from "../../parts/log-pass";
import { Empty, FormTrouble, PageLoading } from "../../parts/states";
import { day, many } from "../../parts/words";
import { marigold } from "../../theme/tokens";
import { Compared } from "./compared";
import { Drifts } from "./drifts";
import { Event } from "./event";
import { PassItem, wrong } from "./pass-item";

type Pass = Schemas["PassOut"];
const MOST_SHOWN = 30;

/** The passes of a horse, latest first: compared with each other, each to be laid over the plan. */
export function Passes(props: {
  horse: string;
  units: Schemas["Units"];
  shown: Pass[];
  onShow: (passes: Pass[]) => void;
}) {
  const { shown } = props;
  const client = useQueryClient();
  const { data, error } = useQuery(passesOf(props.horse));
  const waiting = useWaitingPasses(props.horse);
  const remove = useMutation({
    mutationFn: ({ id, back }: { id: string; back: boolean }) =>
      ask(api.DELETE("/api/passes/{id}", { params: { path: { id }, query: { back } } })),
    onSuccess: () => void client.invalidateQueries({ queryKey: ["horse", props.horse] }),
  });
  const removed = remove.isSuccess ? remove.variables : null;
  if (error) return <FormTrouble error={error} />;
  if (!data) return <PageLoading what="the passes" />;
  // Times compare within a gait and over the same set-up.
  const alike = (pass: Pass) =>
    data.items.filter((p) => p.gait === pass.gait && p.set_up_id === pass.set_up_id);
  const behind = (pass: Pass) =>
    (pass.official ?? 0) - Math.min(...alike(pass).map((p) => p.official ?? Infinity));
  const lastRun = data.items.find((p) => p.gait === "run" && p.official);
  const isShown = (pass: Pass) => shown.some((p) => p.id === pass.id);
  // Two at once: a third takes the place of the one that was shown first.
  const show = (pass: Pass) =>
    props.onShow(isShown(pass) ? shown.filter((p) => p.id !== pass.id) : [...shown.slice(-1), pass]);
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Drifts drifts={data.drifts} />
      {lastRun && <Event setUp={lastRun.set_up_id} on={lastRun.on} />}
      <Compared passes={shown} />
      {removed && !removed.back && (
        <Box role="status">
          The pass was taken out.{" "}
          <Button onClick={() => remove.mutate({ id: removed.id, back: true })}>Undo</Button>
        </Box>
      )}
      <FormTrouble error={remove.error} />
      {waiting.length > 0 && (
        <Box role="status" sx={{ borderLeft: `6px solid ${marigold}`, pl: 1.5 }}>
          <b>{many(waiting.length, "pass", "passes")} on this device, not sent yet.</b>
          {waiting.map(({ rep, body }) => (
            <Typography key={rep}>
              {body.on ? `${day(body.on)}, ` : ""}
              {body.gait}: {wrong(body.told.barrels)}
            </Typography>
          ))}
        </Box>
      )}
      {data.items.length === 0 && <Empty>No passes so far. Log one here or in Ride.</Empty>}
      <Box component="ul" aria-label="Passes" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {data.items.slice(0, MOST_SHOWN).map((pass) => (
          <PassItem
            key={pass.id}
            pass={pass}
            horse={props.horse}
            units={props.units}
            behind={behind(pass)}
            shown={isShown(pass)}
            onShow={() => show(pass)}
            onTakeOut={() => remove.mutate({ id: pass.id, back: false })}
          />
        ))}
      </Box>
    </Box>
  );
}
