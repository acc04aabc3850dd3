import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { grounds, horses, penOf, setUps } from "../../api/queries";
import { newId } from "../../parts/ids";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { Bench } from "./bench";
import { Choice } from "./choice";
import { Figures } from "./figures/figures";

const views = [
  ["barrels", "Barrels"],
  ["figures", "Figures"],
  ["course", "Course"],
] as const;

/** The pattern bench: a set-up of barrels in one of the barn's pens, and one horse in it. */
export function Patterns() {
  const me = useMe();
  const { units } = me.barn;
  const [asked, setAsked] = useSearchParams();
  const [fresh, setFresh] = useState(newId);
  const places = useQuery(grounds);
  const kept = useQuery(setUps);
  const string = useQuery(horses());
  const error = places.error ?? kept.error ?? string.error;
  const at = (key: string, value: string) =>
    setAsked((old) => {
      const next = new URLSearchParams(old);
      next.set(key, value);
      if (key === "ground") next.delete("set-up");
      return next;
    });
  // Another set-up or pen: what is begun next is a new one.
  const pick = (key: string, value: string) => {
    setFresh(newId());
    at(key, value);
  };
  const setUp = kept.data?.items.find((s) => s.id === asked.get("set-up")) ?? null;
  const pens = (places.data?.items ?? []).filter((g) => g.place !== "trail");
  const first = kept.data?.items[0];
  const ground =
    setUp?.ground_id ?? asked.get("ground") ?? first?.ground_id ?? pens.find((g) => g.place === "arena")?.id;
  const pen = useQuery({ ...penOf(ground ?? ""), enabled: ground !== undefined });
  if (error)
    return (
      <PageTrouble
        title="Couldn't load the patterns"
        detail={error.message}
        again={() => void kept.refetch()}
      />
    );
  if (!places.data || !kept.data || !string.data) return <PageLoading what="the patterns" />;
  if (!ground || string.data.items.length === 0)
    return (
      <>
        <Typography variant="h1">Patterns</Typography>
        <Empty>
          {ground
            ? "Add a horse on the Barn page first."
            : "Add an arena on the Barn page first: a pattern is set up in a pen."}
        </Empty>
      </>
    );
  if (pen.error)
    return (
      <PageTrouble
        title="Couldn't load the pen"
        detail={pen.error.message}
        again={() => void pen.refetch()}
      />
    );
  if (!pen.data) return <PageLoading what="the pen" />;
  const here = kept.data.items.filter((s) => s.ground_id === ground);
  // The latest of this pen, unless another was asked for or a new one is begun.
  const open = asked.get("set-up") === "new" ? null : (setUp ?? here[0] ?? null);
  const id = open?.id ?? fresh;
  const wanted = views.find(([view]) => view === asked.get("view"))?.[0];
  const view = me.role === "owner" ? "barrels" : (wanted ?? "barrels");
  const horse = string.data.items.find((h) => h.id === asked.get("horse")) ?? string.data.items[0];
  if (!horse) return null;
  return (
    <>
      <Box
        className="no-print"
        sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1.5 }}
      >
        <Typography variant="h1" sx={{ mr: 1 }}>
          Patterns
        </Typography>
        {me.role !== "owner" && (
          <OneOf label="View" of={views} picked={view} onPick={(view) => at("view", view)} />
        )}
        <Choice
          label="Pen"
          value={ground}
          of={pens.map((g) => [g.id, g.name])}
          onPick={(id) => pick("ground", id)}
        />
        {view === "barrels" && (
          <Choice
            label="Set-up"
            value={open?.id ?? "new"}
            of={[...here.map((s): [string, string] => [s.id, s.name]), ["new", "New set-up"]]}
            onPick={(id) => pick("set-up", id)}
          />
        )}
        <Choice
          label="Horse"
          value={horse.id}
          of={string.data.items.map((h) => [h.id, h.name])}
          onPick={(id) => at("horse", id)}
        />
      </Box>
      {view !== "barrels" ? (
        <Figures
          key={view}
          ground={ground}
          pen={pen.data.pen}
          horse={horse}
          units={units}
          course={view === "course"}
        />
      ) : (
        <Bench
          // Kept for the first time, it is the same set-up: what was done to it can still be undone.
          key={`${ground} ${id}`}
          id={id}
          ground={ground}
          pen={pen.data}
          kept={open}
          horse={horse}
          units={units}
          onKept={(id) => at("set-up", id)}
        />
      )}
    </>
  );
}
