import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Suspense, use, type ReactNode } from "react";
import { asideIsRead, discard, exported, flush, useOutbox, type Refusal } from "../offline/outbox";
import { download } from "./download";
import { SignedOutContext } from "./me";
import { onDemand } from "./on-demand";
import { refusedSets } from "./refused-sets";
import { many } from "./words";
import { ink, marigold, oxblood, paper } from "../theme/tokens";

const RefusedSet = onDemand(() => import("./refused-note").then((m) => m.RefusedSet));

const named = {
  log: "a rep",
  count: "a count",
  correct: "a change to a rep",
  "correct-count": "a change to a count",
  check: "an answer to a check",
  "hand-in": "what you handed in",
  pass: "a pass",
  tack: "what was noted of the tack",
  cattle: "what was logged on cattle",
  exercise: "what was logged of an exercise",
  sheet: "a score",
};

/** What was put in here, beside what stands there now. */
function mine({ item, now }: Refusal) {
  if (item.kind !== "correct") return null;
  const there = now as { outcome?: string; weight?: string; removed?: boolean } | undefined;
  const said = (r: { outcome?: string; weight?: string; removed?: boolean }) =>
    r.removed ? "taken out" : `${r.outcome ?? ""} at ${r.weight ?? ""}`;
  return (
    <span>
      {" "}
      You made it <b>{said(item.body)}</b>
      {there?.outcome && (
        <>
          , it is now <b>{said(there)}</b>
        </>
      )}
      .
    </span>
  );
}

/** Says what is not sent yet and why, and what the server would not take. Silent when all is well. */
export function OutboxNote() {
  const { waiting, refused, error, aside } = useOutbox();
  const sets = refusedSets(refused);
  const others = refused.filter((r) => r.item.kind !== "log" && r.item.kind !== "count");
  const signIn = use(SignedOutContext);
  const kept = waiting.length > 0 && (error || signIn);
  if (refused.length === 0 && !kept && !signIn && !aside) return null;
  return (
    <Box role="status" className="no-print" sx={{ mb: 2, display: "grid", gap: 1, color: ink }}>
      {(kept || signIn) && (
        <Line edge={marigold}>
          <span>
            {kept && <b>{waiting.length} on this device, not sent yet. </b>}
            {signIn ? "You were signed out. Ride on: it will be sent when you sign in." : error}
          </span>
          <Button variant="outlined" onClick={signIn ?? (() => void flush())}>
            {signIn ? "Sign in" : "Send now"}
          </Button>
        </Line>
      )}
      {aside && (
        <Line edge={marigold}>
          <span>
            <b>{many(aside.n, "ask")} to be placed.</b> They are kept: {aside.why}. A trainer puts them on a
            ride, on Today.
          </span>
          <Button variant="outlined" onClick={asideIsRead}>
            OK
          </Button>
        </Line>
      )}
      <Suspense fallback={null}>
        {sets.map((set) => (
          <RefusedSet key={set.map((r) => r.item.rep).join()} refused={set} />
        ))}
      </Suspense>
      {others.length > 0 && (
        <Button sx={{ justifySelf: "start" }} onClick={() => download(exported(others), "not-saved.json")}>
          Export what couldn't be saved
        </Button>
      )}
      {others.map((refusal) => (
        <Line key={refusal.item.kind + refusal.item.rep} edge={oxblood}>
          <span>
            <b>Couldn't save {named[refusal.item.kind]}.</b> {refusal.why}
            {mine(refusal)}
          </span>
          <Button variant="outlined" onClick={() => discard(refusal)}>
            Discard
          </Button>
        </Line>
      ))}
    </Box>
  );
}

function Line({ edge, children }: { edge: string; children: ReactNode }) {
  return (
    <Box
      sx={{
        background: paper,
        borderLeft: `6px solid ${edge}`,
        p: 1.5,
        display: "flex",
        gap: 2,
        alignItems: "center",
        flexWrap: "wrap",
      }}
    >
      {children}
    </Box>
  );
}
