import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { bone, boneSoft, denimSoft, ink, paper, rustSoft, slab } from "../../theme/tokens";

/** The page before one is in: what this is on one side, the way in on the other. */
export function Cover({ children }: { children: ReactNode }) {
  return (
    <Box sx={{ minHeight: "100dvh", display: "grid", gridTemplateColumns: { xs: "1fr", md: "5fr 6fr" } }}>
      <Box
        sx={{
          background: ink,
          color: bone,
          p: { xs: 3, md: 7 },
          display: "flex",
          flexDirection: "column",
          justifyContent: "space-between",
          gap: 3,
        }}
      >
        <Typography sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.4rem" }}>Cavesson</Typography>
        <Box>
          <Typography variant="h1" sx={{ fontSize: { xs: "1.9rem", md: "2.7rem" }, maxWidth: 480 }}>
            Left and right are two horses. Keep a book on both.
          </Typography>
          <Typography sx={{ mt: 2, maxWidth: 440, color: boneSoft, fontSize: "1.08rem" }}>
            Log each ask and each give. Read what is owned, what slips and what comes next, with the figures
            behind it.
          </Typography>
        </Box>
        <Reins />
      </Box>
      <Box
        component="main"
        sx={{
          p: { xs: 3, md: 7 },
          display: "flex",
          flexDirection: "column",
          justifyContent: "center",
          maxWidth: 620,
        }}
      >
        {children}
      </Box>
    </Box>
  );
}

function Reins() {
  return (
    <Box
      component="svg"
      viewBox="0 0 420 90"
      aria-hidden="true"
      sx={{ width: "100%", maxWidth: 420, display: { xs: "none", md: "block" } }}
    >
      <path
        d="M0 84C70 84 120 20 206 18"
        fill="none"
        stroke={denimSoft}
        strokeWidth="7"
        strokeLinecap="round"
      />
      <path
        d="M420 84C350 84 300 20 214 18"
        fill="none"
        stroke={rustSoft}
        strokeWidth="7"
        strokeLinecap="round"
      />
      <circle cx="210" cy="18" r="11" fill={paper} />
    </Box>
  );
}
