import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask, Refused, Unreachable, type Schemas } from "../../api/client";
import { today as todayQuery, week as weekQuery } from "../../api/queries";
import type { Ride, Week } from "./use-week";

export type Progress = { rounds: number; of: number; score: number | null };

/** Plans a week on the server, line by line: what it has so far, and in the end the week. It can be stopped. */
export function usePlan(day: string, hear: { rides: (rides: Ride[]) => void; done: (week: Week) => void }) {
  const [progress, setProgress] = useState<Progress | null>(null);
  const [moved, setMoved] = useState<string[] | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const stopper = useRef<AbortController | null>(null);

  async function run(version: number, keep: Schemas["Keep"]) {
    const stop = new AbortController();
    stopper.current = stop;
    setError(null);
    setMoved(null);
    setProgress({ rounds: 0, of: 1, score: null });
    try {
      const answer = await api.POST("/api/weeks/{day}/plan", {
        params: { path: { day } },
        body: { version, keep },
        parseAs: "stream",
        signal: stop.signal,
      });
      if (answer.error) throw new Refused(answer.error as Schemas["Problem"]);
      const body = answer.data as unknown as ReadableStream<Uint8Array> | null;
      if (!body) throw new Unreachable("Something went wrong on the server. Try again in a moment.");
      for await (const line of lines(body)) {
        if (line.problem) throw new Refused(line.problem);
        if (line.week) {
          setMoved(keep === "all" || line.moved.length > 0 ? line.moved : null);
          hear.done(line.week);
        } else {
          setProgress({ rounds: line.rounds, of: line.of, score: line.score ?? null });
          hear.rides(line.rides);
        }
      }
    } catch (caught) {
      if (!stop.signal.aborted)
        setError(
          caught instanceof Refused
            ? caught
            : new Unreachable("Planning stopped before it was saved. The week is unchanged."),
        );
      return false;
    } finally {
      setProgress(null);
    }
    return true;
  }

  return { run, progress, moved, error, stop: () => stopper.current?.abort(), forget: () => setMoved(null) };
}

/** The lines of a stream of JSON. */
async function* lines(body: ReadableStream<Uint8Array>): AsyncGenerator<Schemas["PlanLine"]> {
  const reader = body
    .pipeThrough(new TextDecoderStream() as unknown as TransformStream<Uint8Array, string>)
    .getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const parts = (rest + value).split("\n");
    rest = parts.pop() ?? "";
    for (const part of parts) if (part) yield JSON.parse(part) as Schemas["PlanLine"];
  }
}

/** Shows the draft to everyone, once all of it is kept. */
export function usePublish(day: string, version: () => Promise<number>, hear?: (week: Week) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () =>
      ask(
        api.POST("/api/weeks/{day}/publish", {
          params: { path: { day } },
          body: { version: await version() },
        }),
      ),
    onSuccess: (published) => {
      client.setQueryData(weekQuery(day).queryKey, published);
      hear?.(published);
      void client.invalidateQueries({ queryKey: todayQuery.queryKey });
    },
  });
}
