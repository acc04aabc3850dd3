import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { use, type ReactNode } from "react";
import { discard, exported, flush, useOutbox, type Refusal } from "../offline/outbox";
import { SignedOutContext } from "./me";
import { ink, marigold, oxblood, paper } from "../theme/tokens";

const named = {
  log: "a rep",
  count: "a count",
  correct: "a change to a rep",
  "correct-count": "a change to a count",
  check: "an answer to a check",
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

function download(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Says what is not sent yet and why, and what the server would not take. Silent when all is well. */
export function OutboxNote() {
  const { waiting, refused, error } = useOutbox();
  const signIn = use(SignedOutContext);
  const kept = waiting.length > 0 && (error || signIn);
  if (refused.length === 0 && !kept && !signIn) return null;
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
      {refused.length > 0 && (
        <Button sx={{ justifySelf: "start" }} onClick={() => download(exported(), "not-saved.json")}>
          Export what couldn't be saved
        </Button>
      )}
      {refused.map((refusal) => (
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
