import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "../api/client";
import { rideExercises } from "../api/queries";
import { useRideLog, type Entry } from "./ride-log";

export type ExerciseEvent = Schemas["ExerciseEventIn"]["event"];
export type ExerciseEntry = Entry<"exercise">;
export type ExerciseOf<K extends ExerciseEvent["kind"]> = Extract<ExerciseEvent, { kind: K }>;

/** The entries of one kind, in order. */
export const exercisesOf = <K extends ExerciseEvent["kind"]>(events: ExerciseEntry[], kind: K) =>
  events.flatMap((entry) =>
    entry.event.kind === kind ? [{ entry, event: entry.event as ExerciseOf<K> }] : [],
  );

/** Exercises on a ride: what was logged of them, and how more is. */
export function useExerciseLog(ride: string) {
  const client = useQueryClient();
  const seen = useQuery(rideExercises(ride)).data;
  const log = useRideLog("exercise", ride, seen?.events);
  const { unsent } = log;
  // Once all is sent, what comes next is asked anew.
  useEffect(() => {
    if (unsent === 0) void client.invalidateQueries({ queryKey: rideExercises(ride).queryKey });
  }, [client, ride, unsent]);
  return { ...log, seen };
}
export type ExerciseLog = ReturnType<typeof useExerciseLog>;

/** Where a figure that is called stands: the call that comes next, and how often calls had to be ridden again. A figure that was called to
 * its end begins anew with its first call. */
export function calledSoFar(events: ExerciseEntry[], figure: string) {
  const moves = exercisesOf(events, "move")
    .map(({ event }) => event)
    .filter((event) => event.figure === figure);
  const last = moves.at(-1);
  // What came before the last beginning belongs to an earlier time round.
  const begun = moves.findLastIndex((event, n) => event.call === 0 && (n === 0 || moves[n - 1]?.call !== 0));
  const round = moves.slice(Math.max(0, begun));
  const again = round.filter((event) => event.answer === "again");
  const next = last ? last.call + (last.answer === "done" ? 1 : 0) : 0;
  return { next, again: again.map((event) => event.says) };
}
