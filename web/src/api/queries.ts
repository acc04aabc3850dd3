import {
  infiniteQueryOptions,
  keepPreviousData,
  queryOptions,
  type QueryClient,
} from "@tanstack/react-query";
import { api, ask, setToken, type Schemas } from "./client";

export const setup = queryOptions({ queryKey: ["setup"], queryFn: () => ask(api.GET("/api/setup")) });
export const me = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    const signedIn = await ask(api.GET("/api/me"));
    // Before any page under it asks for something: an effect would come after what the pages ask for as they open.
    setToken(signedIn.csrf);
    return signedIn;
  },
  staleTime: 60_000,
});
export const today = queryOptions({
  queryKey: ["today"],
  queryFn: () => ask(api.GET("/api/today")),
  staleTime: 15_000,
});
export const curriculum = queryOptions({
  queryKey: ["curriculum"],
  queryFn: () => ask(api.GET("/api/curriculum")),
  staleTime: Infinity,
});

/** The curriculum of one horse, where the barn has made changes for it alone. */
export const curriculumOf = (horseId: string) =>
  queryOptions({
    queryKey: ["curriculum", horseId],
    queryFn: () => ask(api.GET("/api/curriculum", { params: { query: { horse: horseId } } })),
    staleTime: Infinity,
  });
export const gone = queryOptions({
  queryKey: ["gone"],
  queryFn: () => ask(api.GET("/api/curriculum/gone")),
});
export const curriculumChanges = queryOptions({
  queryKey: ["curriculum", "changes"],
  queryFn: () => ask(api.GET("/api/curriculum/changes")),
});
export const overview = queryOptions({
  queryKey: ["overview"],
  queryFn: () => ask(api.GET("/api/overview")),
});
export const owned = queryOptions({ queryKey: ["owned"], queryFn: () => ask(api.GET("/api/owned")) });
export const overrules = queryOptions({
  queryKey: ["overrules"],
  queryFn: () => ask(api.GET("/api/overrules")),
});

/** The alarms of the last months, a page at a time. */
export const account = queryOptions({ queryKey: ["account"], queryFn: () => ask(api.GET("/api/account")) });
export const sessions = queryOptions({
  queryKey: ["sessions"],
  queryFn: () => ask(api.GET("/api/sessions")),
});
export const securityLog = infiniteQueryOptions({
  queryKey: ["security-log"],
  queryFn: ({ pageParam }) =>
    ask(api.GET("/api/security-log", { params: { query: { offset: pageParam, limit: 50 } } })),
  initialPageParam: 0,
  getNextPageParam: (last) => (last.more ? last.offset + last.items.length : undefined),
});
/** What was logged and waits for a trainer to put it on a ride. */
export const unplaced = queryOptions({
  queryKey: ["unplaced"],
  queryFn: () => ask(api.GET("/api/unplaced", { params: { query: { limit: 200 } } })),
});
export const alarms = infiniteQueryOptions({
  queryKey: ["alarms"],
  queryFn: ({ pageParam }) =>
    ask(api.GET("/api/alarms", { params: { query: { offset: pageParam, limit: 50 } } })),
  initialPageParam: 0,
  getNextPageParam: (last) => (last.more ? last.offset + last.items.length : undefined),
});

/** All of a list, page by page to its end. */
async function toTheEnd<T>(page: (offset: number) => Promise<{ items: T[]; more: boolean }>) {
  const items: T[] = [];
  for (let more = true; more;) {
    const next = await page(items.length);
    items.push(...next.items);
    more = next.more && next.items.length > 0;
  }
  return { items };
}
const page = (offset: number, archived = false) => ({ query: { offset, limit: 100, archived } });

export const horses = (archived = false) =>
  queryOptions({
    queryKey: ["horses", archived],
    queryFn: () => toTheEnd((offset) => ask(api.GET("/api/horses", { params: page(offset, archived) }))),
  });
export const people = (archived = false) =>
  queryOptions({
    queryKey: ["people", archived],
    queryFn: () => toTheEnd((offset) => ask(api.GET("/api/people", { params: page(offset, archived) }))),
  });
export const horse = (id: string) =>
  queryOptions({
    queryKey: ["horse", id],
    queryFn: () => ask(api.GET("/api/horses/{id}", { params: { path: { id } } })),
  });
export const standing = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "standing"],
    queryFn: () => ask(api.GET("/api/horses/{id}/standing", { params: { path: { id } } })),
  });
export const findings = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "findings"],
    queryFn: () => ask(api.GET("/api/horses/{id}/findings", { params: { path: { id } } })),
  });
export const forecast = (id: string, by: string) =>
  queryOptions({
    queryKey: ["horse", id, "forecast", by],
    queryFn: () => ask(api.GET("/api/horses/{id}/forecast", { params: { path: { id }, query: { by } } })),
    placeholderData: keepPreviousData,
  });
/** The barn's own places to ride. */
export const grounds = queryOptions({
  queryKey: ["grounds"],
  queryFn: () => ask(api.GET("/api/grounds")),
});

/** What went wrong badly with a horse. */
export const incidentsOf = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "incidents"],
    queryFn: () => ask(api.GET("/api/horses/{id}/incidents", { params: { path: { id } } })),
  });

/** Time off of a horse, and its way back. */
export const layoffsOf = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "layoffs"],
    queryFn: () => ask(api.GET("/api/horses/{id}/layoffs", { params: { path: { id } } })),
  });

/** What others say that a horse knows. */
export const claimsOf = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "claims"],
    queryFn: () => ask(api.GET("/api/horses/{id}/claims", { params: { path: { id } } })),
  });

/** The next ask of an intake ride, after so many asks and corrections. */
export const intakeOf = (id: string, asks: number, changes: number) =>
  queryOptions({
    queryKey: ["ride", id, "intake", asks, changes],
    queryFn: () => ask(api.GET("/api/rides/{id}/intake", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
export const trace = (id: string, step: string) =>
  queryOptions({
    queryKey: ["horse", id, "trace", step],
    queryFn: () => ask(api.GET("/api/horses/{id}/trace", { params: { path: { id }, query: { step } } })),
    placeholderData: keepPreviousData,
  });
/** The latest rides of a horse, or those that follow one. */
export const horseRides = (id: string, after?: string) =>
  queryOptions({
    queryKey: ["horse", id, "rides", after ?? "latest"],
    queryFn: () =>
      ask(api.GET("/api/horses/{id}/rides", { params: { path: { id }, query: { after, limit: 8 } } })),
    placeholderData: keepPreviousData,
  });
export const plannedOn = (id: string, date: string) =>
  queryOptions({
    queryKey: ["horse", id, "planned", date],
    queryFn: () => ask(api.GET("/api/horses/{id}/planned", { params: { path: { id }, query: { date } } })),
  });
export const changes = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "changes"],
    queryFn: () =>
      ask(api.GET("/api/horses/{id}/changes", { params: { path: { id }, query: { offset: 0, limit: 20 } } })),
  });
export const plan = (id: string) =>
  queryOptions({
    queryKey: ["ride", id, "plan"],
    queryFn: () => ask(api.GET("/api/rides/{id}/plan", { params: { path: { id } } })),
  });
/** The coach's line after so many reps, with so many faults tapped. */
export const coachLine = (id: string, reps: number, faults = 0) =>
  queryOptions({
    queryKey: ["ride", id, "coach", reps, faults],
    queryFn: () => ask(api.GET("/api/rides/{id}/coach", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
export const summary = (id: string) =>
  queryOptions({
    queryKey: ["ride", id, "summary"],
    queryFn: () => ask(api.GET("/api/rides/{id}/summary", { params: { path: { id } } })),
  });
export const horseGear = (id: string) =>
  queryOptions({
    queryKey: ["horse", id, "gear"],
    queryFn: () => ask(api.GET("/api/horses/{id}/gear", { params: { path: { id } } })),
  });
export const weather = queryOptions({
  queryKey: ["weather"],
  queryFn: () => ask(api.GET("/api/weather")),
  staleTime: 60_000,
});
export const aliases = queryOptions({
  queryKey: ["aliases"],
  queryFn: () => ask(api.GET("/api/aliases")),
});
/** The week of a day. */
export const week = (day: string) =>
  queryOptions({
    queryKey: ["week", day],
    queryFn: () => ask(api.GET("/api/weeks/{day}", { params: { path: { day } } })),
    staleTime: 30_000,
  });
export const appointments = queryOptions({
  queryKey: ["appointments"],
  queryFn: () => ask(api.GET("/api/appointments")),
});
export const balance = (weeks: number) =>
  queryOptions({
    queryKey: ["balance", weeks],
    queryFn: () => ask(api.GET("/api/balance", { params: { query: { weeks } } })),
    placeholderData: keepPreviousData,
  });
export const hours = queryOptions({ queryKey: ["hours"], queryFn: () => ask(api.GET("/api/hours")) });
export const feeds = queryOptions({ queryKey: ["feeds"], queryFn: () => ask(api.GET("/api/feeds")) });
export const ride = (id: string) =>
  queryOptions({
    queryKey: ["ride", id],
    queryFn: () => ask(api.GET("/api/rides/{id}", { params: { path: { id } } })),
  });

/** What a logged or changed rep makes old. */
export function rideChanged(client: QueryClient, horseId: string) {
  void client.invalidateQueries({ queryKey: ["horse", horseId] });
  void client.invalidateQueries({ queryKey: ["today"] });
  void client.invalidateQueries({ queryKey: ["owned"] });
  void client.invalidateQueries({ queryKey: ["overview"] });
  void client.invalidateQueries({ queryKey: ["overrules"] });
  void client.invalidateQueries({ queryKey: ["alarms"] });
}

/** What a change to the curriculum makes old. */
export function curriculumChanged(client: QueryClient) {
  for (const key of ["curriculum", "horse", "today", "owned", "overview", "gone"])
    void client.invalidateQueries({ queryKey: [key] });
}

/** What the open rides of today need, all in one. */
export const wholeDay = queryOptions({
  queryKey: ["day"],
  queryFn: () => ask(api.GET("/api/day")),
  // Its parts are kept where each is asked for.
  gcTime: 0,
});
/** The pen of a place, as it was drawn. */
export const penOf = (ground: string) =>
  queryOptions({
    queryKey: ["pen", ground],
    queryFn: () => ask(api.GET("/api/grounds/{id}/pen", { params: { path: { id: ground } } })),
  });
export const figures = queryOptions({
  queryKey: ["figures"],
  queryFn: () => ask(api.GET("/api/figures")),
});
export const setUps = queryOptions({
  queryKey: ["set-ups"],
  queryFn: () => ask(api.GET("/api/set-ups")),
});
export const passesOf = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "passes"],
    queryFn: () => ask(api.GET("/api/horses/{id}/passes", { params: { path: { id: horse } } })),
  });
export const patternToday = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "pattern-today"],
    queryFn: () => ask(api.GET("/api/horses/{id}/pattern-today", { params: { path: { id: horse } } })),
  });

/** The timed runs over a set-up on a day, placed by divisions. */
export const eventOf = (setUp: string, on: string) =>
  queryOptions({
    queryKey: ["event", setUp, on],
    queryFn: () =>
      ask(api.GET("/api/set-ups/{id}/event", { params: { path: { id: setUp }, query: { on } } })),
  });

/** The bits and bosals in use, with their measures. */
export const tackWall = queryOptions({
  queryKey: ["tack"],
  queryFn: () => ask(api.GET("/api/tack")),
});
/** What a piece does under a hand. */
export const tackBench = (body: Schemas["BenchIn"]) =>
  queryOptions({
    queryKey: ["tack-bench", body],
    queryFn: () => ask(api.POST("/api/tack/bench", { body })),
    staleTime: Infinity,
  });
/** A horse's road from bit to bit, and where it is on it. */
export const horseTack = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "tack"],
    queryFn: () => ask(api.GET("/api/horses/{id}/tack", { params: { path: { id: horse } } })),
  });
/** What happened with the tack on a ride, and what comes next. */
export const rideTack = (ride: string) =>
  queryOptions({
    queryKey: ["ride", ride, "tack"],
    queryFn: () => ask(api.GET("/api/rides/{id}/tack", { params: { path: { id: ride } } })),
  });
/** The herd, as it stands today. */
export const herd = queryOptions({
  queryKey: ["cattle", "herd"],
  queryFn: () => ask(api.GET("/api/cattle")),
});
/** Which cow for which horse today. */
export const cattleDraw = queryOptions({
  queryKey: ["cattle", "draw"],
  queryFn: () => ask(api.GET("/api/cattle-draw")),
});
/** What happened on cattle on a ride, and what comes next. */
export const rideCattle = (ride: string) =>
  queryOptions({
    queryKey: ["ride", ride, "cattle"],
    queryFn: () => ask(api.GET("/api/rides/{id}/cattle", { params: { path: { id: ride } } })),
  });
/** What came of exercises on a ride, and what comes next. */
export const rideExercises = (ride: string) =>
  queryOptions({
    queryKey: ["ride", ride, "exercises"],
    queryFn: () => ask(api.GET("/api/rides/{id}/exercises", { params: { path: { id: ride } } })),
  });
/** A horse's strides, as they were measured. */
export const stridesOf = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "strides"],
    queryFn: () => ask(api.GET("/api/horses/{id}/strides", { params: { path: { id: horse } } })),
  });
/** The latest scored runs of a horse. */
export const scoredRuns = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "scored-runs"],
    queryFn: () => ask(api.GET("/api/horses/{id}/scored-runs", { params: { path: { id: horse } } })),
  });
/** A run as it is scored. */
export const scoring = (run: string) =>
  queryOptions({
    queryKey: ["scored-run", run],
    queryFn: () => ask(api.GET("/api/scored-runs/{id}", { params: { path: { id: run } } })),
  });
/** The programme of a ride's work on the flag, and the horse's stops so far. */
export const flagProgramme = (ride: string) =>
  queryOptions({
    queryKey: ["ride", ride, "flag"],
    queryFn: () => ask(api.GET("/api/rides/{id}/flag", { params: { path: { id: ride } } })),
  });
/** The same answers in two pieces of a horse's gear. */
export const piecesCompared = (horse: string, first: string, second: string) =>
  queryOptions({
    queryKey: ["horse", horse, "pieces", first, second],
    queryFn: () =>
      ask(
        api.GET("/api/horses/{id}/pieces-compared", {
          params: { path: { id: horse }, query: { first, second } },
        }),
      ),
  });
/** A horse in the two-rein: its share over the months, and when it may go straight up. */
export const twoRein = (horse: string) =>
  queryOptions({
    queryKey: ["horse", horse, "two-rein"],
    queryFn: () => ask(api.GET("/api/horses/{id}/two-rein", { params: { path: { id: horse } } })),
  });
