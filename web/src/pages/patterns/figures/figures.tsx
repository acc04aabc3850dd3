import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { figures } from "../../../api/queries";
import { chosenFigure, figureChoices, readyId } from "../../../parts/figure-choice";
import { newId } from "../../../parts/ids";
import { PageLoading, PageTrouble } from "../../../parts/states";
import { Choice } from "../choice";
import { DrillDialog, type MadeDrill } from "./drill-dialog";
import { FigureBench, type Draft } from "./figure-bench";
import { forgetTyped } from "./use-typed";

/** The first figure with an obstacle in it. */
function firstCourse({ items, ready }: Schemas["Figures"]): string | undefined {
  const laid = /^\s*(poles|bridge|gate|backthrough|sidepass)\s/m;
  const n = ready.findIndex((figure) => laid.test(figure.text));
  return items.find((figure) => laid.test(figure.text))?.id ?? (n < 0 ? undefined : readyId(n));
}

const EMPTY = "start 60 60 heading 0\njog\ncircle right 30\nstop\n";

/** The barn's figures and those that come with it: one of them is open. */
export function Figures(props: {
  ground: string;
  pen: Schemas["Pen"];
  horse: { id: string; name: string };
  units: Schemas["Units"];
  /** Whether they are looked at as trail courses. */
  course: boolean;
}) {
  const [asked, setAsked] = useSearchParams();
  const [fresh, setFresh] = useState(newId);
  const [made, setMade] = useState<MadeDrill | null>(null);
  const [making, setMaking] = useState<Schemas["DrillNeed"][] | null>(null);
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
  const { items } = all.data;
  const first = props.course ? firstCourse(all.data) : items[0]?.id;
  const wanted = asked.get("figure") ?? first ?? readyId(0);
  const kept = made ? undefined : items.find((figure) => figure.id === wanted);
  const begun = chosenFigure(all.data, wanted);
  const draft: Draft = kept ?? {
    id: fresh,
    name: made?.name ?? begun?.name ?? "New figure",
    text: made?.text ?? begun?.text ?? EMPTY,
    version: null,
  };
  const open = (figure: string) => {
    setFresh(newId());
    setMade(null);
    if (figure === "new") forgetTyped("new.0");
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
        key={`${wanted} ${draft.id} ${draft.version ?? 0} ${props.ground} ${props.horse.id}`}
        id={made ? draft.id : wanted}
        choice={
          <Choice
            label="Figure"
            value={kept ? kept.id : begun && !made ? wanted : "new"}
            of={[...figureChoices(all.data), ["new", "New figure"]]}
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
        course={props.course}
        onDrill={(need) => setMaking(need ? [need] : [])}
        onKept={open}
      />
      {making && (
        <DrillDialog
          ground={props.ground}
          horse={props.horse}
          needs={making}
          seed={seed}
          onMade={(drill) => {
            setFresh(newId());
            setSeed(seed + 1);
            setMade(drill);
            setMaking(null);
          }}
          onClose={() => setMaking(null)}
        />
      )}
    </>
  );
}
