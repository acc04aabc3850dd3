import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { securityLog } from "../../api/queries";
import { PageLoading, PageTrouble } from "../../parts/states";
import { moment } from "../../parts/words";
import { ink, inkSoft, oxblood, rule } from "../../theme/tokens";

type Entry = Schemas["SecurityEntry"];

const told: Record<string, (e: Entry) => string> = {
  "signed-in": () => "Signed in",
  "sign-in-failed": (e) => `Couldn't sign in as ${e.about ?? "someone"}: ${e.detail}`,
  "signed-out": () => "Signed out",
  "session-ended": () => "Signed another device out",
  "password-set": () => "Changed their password",
  "link-made": (e) => `Made a link for ${e.about ?? "someone"}${e.detail && `, ${e.detail}`}`,
  "link-used": () => "Set a password by link",
  "codes-on": () => "Turned one-time codes on",
  "codes-off": () => "Turned one-time codes off",
  "person-added": (e) => `Added ${e.about ?? "someone"}: ${e.detail}`,
  "person-changed": (e) => `Changed ${e.about ?? "someone"}: ${e.detail}`,
  "feed-made": () => "Gave a calendar address out",
  "feed-revoked": () => "Took a calendar address back",
  exported: (e) => `Saved a file: ${e.detail}`,
};

/** Who signed in, who failed to, and what was changed about accounts. */
export function SecurityLog() {
  const log = useInfiniteQuery(securityLog);
  if (log.error && !log.data)
    return (
      <PageTrouble
        title="Couldn't load the security log"
        detail={log.error.message}
        again={() => void log.refetch()}
      />
    );
  if (!log.data) return <PageLoading what="the security log" />;
  const entries = log.data.pages.flatMap((p) => p.items);
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "end" }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">Security log</Typography>
          <Typography sx={{ color: inkSoft }}>
            Who signed in and from where, and what was changed about people and calendars. Many failures in a
            row on one account mean that someone is guessing.
          </Typography>
        </Box>
        <Button component={Link} to="/barn" variant="outlined">
          Back to the barn
        </Button>
      </Box>
      <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0, borderTop: `2px solid ${ink}` }}>
        {entries.map((e) => (
          <Box
            component="li"
            key={e.id}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr", sm: "170px 1fr 260px" },
              columnGap: 2,
              py: 0.75,
              borderBottom: `1px solid ${rule}`,
            }}
          >
            <Box component="span" sx={{ color: inkSoft }}>
              {moment(e.at)}
            </Box>
            <Box component="span" sx={{ color: e.what === "sign-in-failed" ? oxblood : ink }}>
              {e.by && <b>{e.by}. </b>}
              {told[e.what]?.(e) ?? e.what}
            </Box>
            <Box component="span" sx={{ color: inkSoft }}>
              {[e.device, e.address].filter(Boolean).join(", ")}
            </Box>
          </Box>
        ))}
      </Box>
      {log.hasNextPage && (
        <Button
          variant="outlined"
          disabled={log.isFetchingNextPage}
          onClick={() => void log.fetchNextPage()}
          sx={{ justifySelf: "start" }}
        >
          Show more
        </Button>
      )}
    </Box>
  );
}
