import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import {
  begin,
  correctItem,
  finished,
  logItem,
  setFor,
  step,
  type Draft,
  type Rep,
  type Session,
} from "./session";

const empty: Session = { reps: [], drafts: [], counted: [] };
const nobody = { riderId: null, cow: null };
const asked = (side: "left" | "right", seconds: number | null = 1.2) =>
  ({
    do: "ask",
    side,
    rung: "S1",
    gait: "stand",
    seconds,
    around: nobody,
    at: "2026-03-02T10:00:00Z",
  }) as const;

const ride = (sets: Schemas["SetOut"][]): Schemas["RideDetail"] => ({
  id: "ride",
  horse_id: "horse",
  horse_name: "Juniper",
  rider_id: "rider",
  rider_name: "Ada",
  date: "2026-03-02",
  place: "arena",
  state: "open",
  entered: "pen",
  note: "",
  signs: [],
  from_week: false,
  version: 1,
  reps: 0,
  sets,
});

const repOf = (draft: Draft, session: Session = empty): Rep => {
  const rep = finished(session, draft);
  if (!rep) throw new Error("the draft is not finished");
  return rep;
};

const told = (session: Session, outcome: "gave" | "tried" | "none", weight: Rep["weight"]): Session =>
  step(step(session, { do: "fill", with: { outcome } }), { do: "fill", with: { weight } });

describe("an ask", () => {
  it("waits for its outcome and its weight, in whichever order", () => {
    let session = step(empty, asked("left"));
    expect(session.drafts).toHaveLength(1);
    expect(finished(session, session.drafts[0] as Draft)).toBeNull();
    session = step(session, { do: "fill", with: { weight: "egg" } });
    expect(finished(session, session.drafts[0] as Draft)).toBeNull();
    session = step(session, { do: "fill", with: { outcome: "gave" } });
    expect(repOf(session.drafts[0] as Draft)).toMatchObject({
      outcome: "gave",
      weight: "egg",
      seconds: 1.2,
      version: 1,
    });
  });

  it("does not lose an earlier one that is not told yet", () => {
    const session = step(step(empty, asked("left")), asked("right"));
    expect(session.drafts.map((d) => d.side)).toEqual(["left", "right"]);
    expect(step(session, { do: "drop" }).drafts.map((d) => d.side)).toEqual(["right"]);
  });

  it("keeps a time that was not measured as none", () => {
    const session = told(step(empty, asked("left", null)), "tried", "orange");
    expect(repOf(session.drafts[0] as Draft).seconds).toBeNull();
  });
});

describe("sets", () => {
  it("gathers reps of the same ask and begins another for another side", () => {
    let session = told(step(empty, asked("left")), "gave", "egg");
    const first = repOf(session.drafts[0] as Draft, session);
    session = step(step(session, { do: "keep", rep: first }), { do: "drop" });
    session = told(step(session, asked("left")), "gave", "egg");
    const second = repOf(session.drafts[0] as Draft, session);
    expect(second.set).toEqual(first.set);
    expect([first.position, second.position]).toEqual([0, 1]);
    const right = setFor(session, { ...(session.drafts[0] as Draft), side: "right" });
    expect(right.id).not.toBe(first.set.id);
    expect(right.position).toBe(1);
  });
});

describe("corrections", () => {
  const logged = repOf(told(step(empty, asked("left")), "none", "tug").drafts[0] as Draft);

  it("reopen a rep as it is and are made from the version before", () => {
    const session = step({ ...empty, reps: [logged] }, { do: "open", rep: logged });
    const draft = { ...(session.drafts[0] as Draft), weight: "egg" as const };
    const rep = repOf(draft, session);
    expect(rep).toMatchObject({
      id: logged.id,
      outcome: "none",
      weight: "egg",
      version: 2,
      position: logged.position,
    });
    expect(correctItem("ride", rep)).toMatchObject({
      kind: "correct",
      rep: logged.id,
      body: { version: 1, removed: false },
    });
    expect(step(session, { do: "keep", rep }).reps).toEqual([rep]);
  });

  it("open one rep at a time and keep asks that wait", () => {
    const waiting = step({ ...empty, reps: [logged] }, asked("right"));
    const twice = step(step(waiting, { do: "open", rep: logged }), { do: "open", rep: logged });
    expect(twice.drafts.map((d) => d.of?.id ?? d.side)).toEqual([logged.id, "right"]);
  });
});

describe("a ride opened again", () => {
  const set = { id: "set", position: 0, rung: "S1", gait: "stand", side: "left" } as const;
  const onServer: Schemas["SetOut"] = {
    ...set,
    reps: [
      {
        id: "sent",
        position: 0,
        outcome: "gave",
        weight: "egg",
        seconds: 1,
        faults: [],
        removed: false,
        version: 1,
      },
    ],
  };
  const waiting: Rep = {
    id: "waiting",
    set,
    position: 1,
    outcome: "tried",
    missing: "second",
    weight: "orange",
    seconds: 2,
    faults: ["leans"],
    askedAt: null,
    removed: false,
    version: 1,
  };

  it("shows what the server has and what still waits on the device", () => {
    const session = begin(ride([onServer]), [logItem("ride", waiting)]);
    expect(session.reps.map((r) => r.id)).toEqual(["sent", "waiting"]);
    expect(session.reps[1]).toMatchObject({ outcome: "tried", missing: "second", faults: ["leans"] });
  });

  it("logs on into a set of before with the set alone, without what was told in it", () => {
    const session = step(begin(ride([{ ...onServer, counted: null }]), []), asked("left"));
    const draft = { ...(session.drafts[0] as Draft), outcome: "gave" as const, weight: "egg" as const };
    const item = logItem("ride", repOf(draft, session));
    const sent = item.kind === "log" ? Object.keys(item.body.set).sort() : [];
    expect(sent).toEqual(["cow", "gait", "id", "position", "rider_id", "rung", "side"]);
  });

  it("counts a rep that arrived although its answer was lost only once", () => {
    const again = { ...waiting, id: "sent" };
    expect(begin(ride([onServer]), [logItem("ride", again)]).reps).toHaveLength(1);
  });

  it("lays waiting corrections over what the server has", () => {
    const removed: Rep = { ...waiting, id: "sent", removed: true, version: 2 };
    const session = begin(ride([onServer]), [correctItem("ride", removed)]);
    expect(session.reps[0]).toMatchObject({ id: "sent", removed: true, version: 2 });
  });

  it("merges what another device logged, rep by rep, and keeps what is newer here", () => {
    const here = { ...waiting, id: "sent", version: 2, weight: "egg" as const };
    const mine = { ...waiting, id: "mine" };
    const session: Session = { ...empty, reps: [here, mine] };
    const theirs: Schemas["SetOut"] = {
      ...onServer,
      reps: [...onServer.reps, { ...answeredAs("theirs"), position: 1 }],
    };
    const merged = step(session, { do: "merge", ride: ride([theirs]), waiting: [logItem("ride", mine)] });
    expect(merged.reps.map((r) => [r.id, r.version])).toEqual([
      ["sent", 2],
      ["theirs", 1],
      ["mine", 1],
    ]);
  });

  it("asks of another rider, or on another cow, go into a set of their own", () => {
    const first = repOf(told(step(empty, asked("left")), "gave", "egg").drafts[0] as Draft);
    const session = step(
      { ...empty, reps: [first] },
      { ...asked("left"), around: { riderId: "bea", cow: "12" } },
    );
    const set = setFor(session, session.drafts[0] as Draft);
    expect(set).toMatchObject({ rider_id: "bea", cow: "12", position: 1 });
    expect(set.id).not.toBe(first.set.id);
  });
});

const answeredAs = (id: string) => ({
  id,
  outcome: "gave" as const,
  weight: "egg" as const,
  seconds: 1,
  faults: [],
  removed: false,
  version: 1,
});
