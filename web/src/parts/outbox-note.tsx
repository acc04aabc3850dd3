import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { dismiss, flush, useOutbox, type Turned } from "../outbox/outbox";
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

/** Says what is not sent yet, and what the server would not take. Silent when all is well. */
export function OutboxNote() {
  const { waiting, refused, trouble } = useOutbox();
  if (refused.length === 0 && (waiting.length === 0 || !trouble)) return null;
  return (
    <Box role="status" sx={{ mb: 2, display: "grid", gap: 1, color: ink }}>
      {waiting.length > 0 && trouble && (
        <Box
          sx={{
            background: paper,
            borderLeft: `6px solid ${marigold}`,
            p: 1.5,
            display: "flex",
            gap: 2,
            alignItems: "center",
            flexWrap: "wrap",
          }}
        >
          <span>
            <b>{waiting.length} on this device, not sent yet.</b> {trouble}
          </span>
          <Button variant="outlined" onClick={() => void flush()}>
            Send now
          </Button>
        </Box>
      )}
      {refused.map((turned) => (
        <Box
          key={turned.item.kind + turned.item.rep}
          sx={{
            background: paper,
            borderLeft: `6px solid ${oxblood}`,
            p: 1.5,
            display: "flex",
            gap: 2,
            alignItems: "center",
            flexWrap: "wrap",
          }}
        >
          <span>
            <b>{named[turned.item.kind]} was not taken.</b> {turned.why}
            {mine(turned)}
          </span>
          <Button variant="outlined" onClick={() => dismiss(turned)}>
            I have seen it
          </Button>
        </Box>
      ))}
    </Box>
  );
}
