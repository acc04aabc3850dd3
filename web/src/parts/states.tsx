import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { inkSoft, oxblood, paper, rule } from "../theme/tokens";

/** While something is fetched: its place is kept, and after a moment it is named. */
export function PageLoading({ what }: { what: string }) {
  return (
    <Box
      role="status"
      sx={{
        p: 4,
        color: inkSoft,
        opacity: 0,
        // At once: half faded in it would be too pale to read.
        animation: "show 0s 0.4s forwards",
        "@keyframes show": { to: { opacity: 1 } },
      }}
    >
      Fetching {what} …
    </Box>
  );
}

/** Something did not come: what, and how to go on. */
export function PageTrouble({ title, detail, again }: { title: string; detail: string; again?: () => void }) {
  return (
    <Box
      role="alert"
      sx={{
        p: 3,
        m: 3,
        maxWidth: 560,
        background: paper,
        border: `1px solid ${rule}`,
        borderLeft: `6px solid ${oxblood}`,
      }}
    >
      <Typography variant="h2">{title}</Typography>
      <Typography sx={{ my: 1 }}>{detail}</Typography>
      {again && (
        <Button variant="outlined" onClick={again}>
          Try again
        </Button>
      )}
    </Box>
  );
}

/** A list with nothing in it yet: why, and what to do. */
export function Empty({ children }: { children: ReactNode }) {
  return <Box sx={{ p: 3, border: `1.5px dashed ${rule}`, color: inkSoft, maxWidth: 640 }}>{children}</Box>;
}

/** What the server said about a form as a whole. */
export function FormTrouble({ error }: { error: Error | null }) {
  if (!error) return null;
  return (
    <Box
      role="alert"
      sx={{ borderLeft: `5px solid ${oxblood}`, pl: 1.5, py: 0.5, color: oxblood, fontWeight: 600 }}
    >
      {error.message}
    </Box>
  );
}
