import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { use, type ReactNode } from "react";
import { dismiss, flush, useOutbox, type Turned } from "../offline/outbox";
import { SignedOutContext } from "./me";
import { ink, marigold, oxblood, paper } from "../theme/tokens";

const named = { log: "A rep", count: "A count", correct: "A change to a rep", check: "An answer to a check" };

/** What was put in here, beside what stands there now. */
function mine({ item, now }: Turned) {
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
  const { waiting, refused, trouble } = useOutbox();
  const signIn = use(SignedOutContext);
  const kept = waiting.length > 0 && (trouble || signIn);
  if (refused.length === 0 && !kept && !signIn) return null;
  return (
    <Box role="status" className="no-print" sx={{ mb: 2, display: "grid", gap: 1, color: ink }}>
      {(kept || signIn) && (
        <Line edge={marigold}>
          <span>
            {kept && <b>{waiting.length} on this device, not sent yet. </b>}
            {signIn ? "You were signed out meanwhile. Ride on: it is sent when you sign in." : trouble}
          </span>
          <Button variant="outlined" onClick={signIn ?? (() => void flush())}>
            {signIn ? "Sign in" : "Send now"}
          </Button>
        </Line>
      )}
      {refused.map((turned) => (
        <Line key={turned.item.kind + turned.item.rep} edge={oxblood}>
          <span>
            <b>{named[turned.item.kind]} was not taken.</b> {turned.why}
            {mine(turned)}
          </span>
          <Button variant="outlined" onClick={() => dismiss(turned)}>
            I have seen it
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
