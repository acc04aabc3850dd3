import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { figures } from "../../../api/queries";
import { newId } from "../../../parts/ids";
import { PageLoading, PageTrouble } from "../../../parts/states";
import { Choice } from "../choice";
import { DrillDialog, type MadeDrill } from "./drill-dialog";
import { FigureBench, type Draft } from "./figure-bench";

const EMPTY = "start 60 60 heading 0\njog\ncircle right 30\nstop\n";

/** The barn's figures and those that come with it: one of them is open. */
export function Figures(props: {
  ground: string;
  pen: Schemas["Pen"];
  horse: { id: string; name: string };
  units: Schemas["Units"];
}) {
  const [asked, setAsked] = useSearchParams();
  const [fresh, setFresh] = useState(newId);
  const [made, setMade] = useState<MadeDrill | null>(null);
  const [making, setMaking] = useState(false);
  // Another day begins at another number, so that the same wish is not the same drill.
  const [seed, setSeed] = useState(() => Math.floor(Date.now() / 86_400_000) * 10);
  const all = useQuery(figures);
  if (all.error)
    return (
      <PageTrouble
        title="Couldn't load the figures"
        detail={all.error.message}
        again={() => void all.refetch()}
      />
    );
  if (!all.data) return <PageLoading what="the figures" />;
  const { items, ready } = all.data;
  const wanted = asked.get("figure") ?? items[0]?.id ?? "ready 0";
  const kept = made ? undefined : items.find((figure) => figure.id === wanted);
  const begun = ready[Number(/^ready (\d+)$/.exec(wanted)?.[1] ?? -1)];
  const draft: Draft = kept ?? {
    id: fresh,
    name: made?.name ?? begun?.name ?? "New figure",
    text: made?.text ?? begun?.text ?? EMPTY,
    version: null,
  };
  const open = (figure: string) => {
    setFresh(newId());
    setMade(null);
    setAsked((old) => {
      const next = new URLSearchParams(old);
      if (figure) next.set("figure", figure);
      else next.delete("figure");
      return next;
    });
  };
  return (
    <>
      <FigureBench
        key={`${wanted} ${draft.id} ${draft.version ?? 0} ${props.ground}`}
        choice={
          <Choice
            label="Figure"
            value={kept ? kept.id : begun && !made ? wanted : "new"}
            of={[
              ...items.map((figure): [string, string] => [figure.id, figure.name]),
              ...ready.map((figure, n): [string, string] => [`ready ${n}`, `${figure.name} (ready)`]),
              ["new", "New figure"],
            ]}
            onPick={open}
            wide
          />
        }
        draft={draft}
        ground={props.ground}
        pen={props.pen}
        horse={props.horse}
        units={props.units}
        drill={made}
        onDrill={() => setMaking(true)}
        onKept={open}
      />
      {making && (
        <DrillDialog
          ground={props.ground}
          horse={props.horse}
          seed={seed}
          onMade={(drill) => {
            setFresh(newId());
            setSeed(seed + 1);
            setMade(drill);
            setMaking(false);
          }}
          onClose={() => setMaking(false)}
        />
      )}
    </>
  );
}
