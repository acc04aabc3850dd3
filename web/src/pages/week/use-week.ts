import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { week as weekQuery } from "../../api/queries";

export type Week = Schemas["WeekOut"];
export type Ride = Schemas["WeekRide"];

/** What tells a ride of the week from the others. */
export const keyOf = (r: Ride) => `${r.work}|${r.day}|${r.start}`;

type Where = Partial<Pick<Ride, "rider" | "place">>;

/** What a save came to when it did not go through. */
export type Trouble = { error: Error; changedMeanwhile: boolean };

/**
 * The week of a day, with changes to it: each is shown at once, kept on the server one after the other, and can be taken back.
 * Of changes made faster than they are kept only the last one is sent.
 */
export function useWeek(day: string) {
  const client = useQueryClient();
  const query = useQuery(weekQuery(day));
  const { queryKey } = weekQuery(day);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [history, setHistory] = useState<Ride[][]>([]);
  const [scoreBefore, setScoreBefore] = useState<number | null>(null);
  const next = useRef<Ride[] | null>(null);
  const sending = useRef<Promise<void> | null>(null);
  const adding = useRef<Promise<Ride | null>>(Promise.resolve(null));
  const stood = useRef<Week | null>(null);

  const now = () => client.getQueryData<Week>(queryKey);
  const show = (week: Week) => client.setQueryData<Week>(queryKey, week);

  async function send() {
    try {
      while (next.current) {
        const rides = next.current;
        next.current = null;
        const version = now()?.version ?? 0;
        const kept = await ask(
          api.PUT("/api/weeks/{day}", { params: { path: { day } }, body: { version, rides } }),
        );
        // What was changed meanwhile is still on the screen, and is kept next.
        show(next.current ? { ...kept, rides: next.current } : kept);
      }
      setTrouble(null);
    } catch (error) {
      next.current = null;
      const changedMeanwhile =
        error instanceof Refused && error.problem.type === "/problems/changed-meanwhile";
      setTrouble({ error: error as Error, changedMeanwhile });
    } finally {
      sending.current = null;
    }
  }

  function set(rides: Ride[]) {
    const week = now();
    if (!week) return;
    show({ ...week, rides });
    next.current = rides;
    sending.current ??= send();
  }

  function change(rides: Ride[]) {
    const week = now();
    if (!week) return;
    setHistory((before) => [...before.slice(-49), week.rides]);
    setScoreBefore(week.judged.score);
    set(rides);
  }

  async function putIn(work: string, on: number, where: Where) {
    try {
      const rides = now()?.rides ?? [];
      const made = await ask(
        api.POST("/api/weeks/{day}/room", {
          params: { path: { day } },
          body: { rides, work, on, ...where },
        }),
      );
      change([...(now()?.rides ?? []), made]);
      return made;
    } catch (error) {
      setTrouble({ error: error as Error, changedMeanwhile: false });
      return null;
    }
  }

  return {
    query,
    trouble,
    scoreBefore,
    mayUndo: history.length > 0,
    /** Other rides in place of those that stand. */
    change,
    /** Puts one more ride of a work on a day, at the hour that the server finds for it. */
    add(work: string, on: number, where: Where) {
      // One after the other: each finds its room beside those before it.
      adding.current = adding.current.then(() => putIn(work, on, where));
      return adding.current;
    },
    undo() {
      const last = history.at(-1);
      if (!last) return;
      setHistory(history.slice(0, -1));
      setScoreBefore(now()?.judged.score ?? null);
      set(last);
    },
    /** The version of what is on the screen, once all of it is kept. */
    async version() {
      await sending.current;
      return now()?.version ?? 0;
    },
    /** A plan begins: what stands now can be brought back when it is done. */
    begin() {
      stood.current = now() ?? null;
    },
    /** The week as a plan left it. */
    planned(week: Week) {
      const before = stood.current;
      if (before) setHistory((all) => [...all.slice(-49), before.rides]);
      setScoreBefore(before && before.rides.length > 0 ? before.judged.score : null);
      setTrouble(null);
      show(week);
    },
    /** Shows rides that are not kept yet. */
    preview(rides: Ride[]) {
      const week = now();
      if (week) show({ ...week, rides });
    },
    again() {
      setTrouble(null);
      void client.invalidateQueries({ queryKey });
    },
  };
}
