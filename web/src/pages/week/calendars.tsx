import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { feeds } from "../../api/queries";
import { FormTrouble } from "../../parts/states";
import { inkSoft, rule } from "../../theme/tokens";
import type { Week } from "./use-week";
import { newId } from "../../parts/ids";

type Whose = { person_id: string | null; horse_id: string | null; name: string };

/** Private addresses under which a person's or a horse's rides are read by a calendar. */
export function Calendars({ week, onClose }: { week: Week; onClose: () => void }) {
  const client = useQueryClient();
  const given = useQuery(feeds);
  const [told, setTold] = useState<{ id: string; address: string } | null>(null);
  const give = useMutation({
    mutationFn: ({ person_id, horse_id }: Whose) =>
      ask(
        api.PUT("/api/feeds/{id}", {
          params: { path: { id: newId() } },
          body: { person_id, horse_id },
        }),
      ),
    onSuccess: setTold,
    // An address whose response was lost is there all the same: it is listed, so that it can be taken back.
    onSettled: () => client.invalidateQueries({ queryKey: feeds.queryKey }),
  });
  const revoke = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/feeds/{id}", { params: { path: { id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: feeds.queryKey }),
  });
  const all: Whose[] = [
    ...week.riders.map((r) => ({ person_id: r.id, horse_id: null, name: r.name })),
    ...week.horses.map((h) => ({ person_id: null, horse_id: h.id, name: h.name })),
  ];
  return (
    <Dialog open onClose={onClose} aria-labelledby="calendars" fullWidth maxWidth="sm">
      <DialogContent>
        <Typography variant="h2" id="calendars">
          Calendars
        </Typography>
        <Typography sx={{ color: inkSoft, mb: 1 }}>
          An address shows the published rides and appointments of one person or horse in any calendar.
          Whoever has it can read it; take it back and it ends.
        </Typography>
        <FormTrouble error={give.error ?? revoke.error ?? given.error} />
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {all.map((whose) => {
            const mine = (given.data?.items ?? []).filter(
              (f) => (f.person_id ?? null) === whose.person_id && (f.horse_id ?? null) === whose.horse_id,
            );
            return (
              <Box
                component="li"
                key={whose.person_id ?? whose.horse_id}
                sx={{
                  display: "flex",
                  gap: 1,
                  alignItems: "center",
                  flexWrap: "wrap",
                  borderBottom: `1px solid ${rule}`,
                  py: 0.5,
                }}
              >
                <b style={{ flex: 1 }}>{whose.name}</b>
                <Button
                  component="a"
                  href={`/api/calendar?${whose.person_id ? `person=${whose.person_id}` : `horse=${whose.horse_id}`}`}
                  download
                  aria-label={`Save the calendar of ${whose.name} as a file`}
                >
                  As a file
                </Button>
                <Button
                  variant="outlined"
                  disabled={give.isPending}
                  onClick={() => give.mutate(whose)}
                  aria-label={`Create an address for ${whose.name}`}
                >
                  Make an address
                </Button>
                {mine.map((feed) => (
                  <Box
                    key={feed.id}
                    sx={{ flexBasis: "100%", display: "flex", gap: 1, alignItems: "center" }}
                  >
                    <Box component="code" sx={{ flex: 1, overflowWrap: "anywhere", fontSize: "0.9rem" }}>
                      {told?.id === feed.id
                        ? `${window.location.origin}${told.address}`
                        : `given out ${feed.created_at.slice(0, 10)}; it was shown once`}
                    </Box>
                    <Button
                      onClick={() => revoke.mutate(feed.id)}
                      aria-label={`Revoke an address of ${whose.name}`}
                    >
                      Take back
                    </Button>
                  </Box>
                ))}
              </Box>
            );
          })}
        </Box>
        <Button variant="outlined" onClick={onClose} sx={{ mt: 2 }}>
          Done
        </Button>
      </DialogContent>
    </Dialog>
  );
}
