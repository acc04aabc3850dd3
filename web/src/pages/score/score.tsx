import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { scoring } from "../../api/queries";
import { put, useOutbox, type Item } from "../../offline/outbox";
import { OutboxNote } from "../../parts/outbox-note";
import { PageLoading, PageTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { bone, ink, inkSoft, slab } from "../../theme/tokens";
import { Marks } from "./marks";
import { Result } from "./result";

type Sheet = Pick<Schemas["SheetOut"], "marks" | "done" | "version">;

/** Others score the same run: how often it is asked how far they are. */
const OTHERS_MS = 3_000;

/** A run scored from the fence, on a phone: one part at a time, and once it is done what others gave. */
export function Score() {
  const { id = "" } = useParams();
  const run = useQuery({ ...scoring(id), refetchInterval: OTHERS_MS });
  if (!run.data && run.error)
    return (
      <PageTrouble
        title="Couldn't load the run"
        detail={run.error.message}
        again={() => void run.refetch()}
      />
    );
  if (!run.data) return <PageLoading what="the run" />;
  return <Scoring key={id} run={run.data} />;
}

/** The latest of the own sheet: as the server has it, as it waits on this device, as it was just changed. */
function latest(run: Schemas["ScoringOut"], waiting: Item[], mine: Sheet | null): Sheet {
  const own = waiting.flatMap((item) => (item.kind === "sheet" && item.rep === run.id ? [item.body] : []));
  const all: Sheet[] = [run.mine, ...own, ...(mine ? [mine] : [])];
  return all.reduce((a, b) => (b.version > a.version ? b : a));
}

function Scoring({ run }: { run: Schemas["ScoringOut"] }) {
  const navigate = useNavigate();
  const { waiting } = useOutbox();
  const [mine, setMine] = useState<Sheet | null>(null);
  const sheet = latest(run, waiting, mine);
  const keep = (marks: Sheet["marks"], done: boolean) => {
    const next = { marks, done, version: sheet.version + 1 };
    setMine(next);
    put({ kind: "sheet", ride: null, rep: run.id, body: next });
  };
  const unsent = waiting.some((item) => item.kind === "sheet" && item.rep === run.id);
  return (
    <Box
      component="main"
      sx={{
        minHeight: "100dvh",
        background: bone,
        color: ink,
        p: { xs: 1.25, sm: 2 },
        maxWidth: 760,
        mx: "auto",
      }}
    >
      <Box sx={{ display: "flex", gap: 1, alignItems: "baseline" }}>
        <Box component="h1" sx={{ fontFamily: slab, fontSize: "1.5rem", m: 0 }}>
          {run.horse}
        </Box>
        <Box sx={{ color: inkSoft, flex: 1, minWidth: 0 }}>
          {run.name}, {day(run.day)}
        </Box>
        <Box
          component="button"
          type="button"
          onClick={() => void navigate(-1)}
          sx={{
            font: "inherit",
            fontWeight: 650,
            border: 0,
            background: "none",
            color: ink,
            textDecoration: "underline",
            minHeight: 48,
            cursor: "pointer",
          }}
        >
          Leave
        </Box>
      </Box>
      <OutboxNote />
      {sheet.done ? (
        <Result run={run} waits={unsent || !run.mine.done} onOpen={() => keep(sheet.marks, false)} />
      ) : (
        <Marks run={run} marks={sheet.marks} onKeep={keep} />
      )}
    </Box>
  );
}
