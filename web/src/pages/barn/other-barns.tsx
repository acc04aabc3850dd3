import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { roleName } from "../../parts/words";
import { ink, inkSoft, rule } from "../../theme/tokens";
import { NotSent, useLeave } from "./leave";

/** The barns that one may enter: each has its own horses, people and week. */
export function OtherBarns() {
  const me = useMe();
  const leave = useLeave();
  const enter = useMutation({
    mutationFn: (id: string) => ask(api.POST("/api/barns/{id}/enter", { params: { path: { id } } })),
    onSuccess: leave.now,
  });
  const [asked, setAsked] = useState<string | null>(null);
  const go = (id: string) => (leave.waiting > 0 ? setAsked(id) : enter.mutate(id));
  return (
    <Box component="section" aria-label="Your barns">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Your barns
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, borderTop: `2px solid ${ink}` }}>
        {me.barns.map((barn) => (
          <Box
            component="li"
            key={barn.id}
            aria-current={barn.here || undefined}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 2,
              minHeight: 56,
              borderBottom: `1px solid ${rule}`,
            }}
          >
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <b>{barn.name}</b>
              <Box component="span" sx={{ color: inkSoft }}>
                {" "}
                · {roleName[barn.role]}
              </Box>
            </Box>
            {barn.here ? (
              <Box component="span" sx={{ color: inkSoft }}>
                You are here
              </Box>
            ) : (
              <Button
                variant="outlined"
                aria-label={`Enter ${barn.name}`}
                disabled={enter.isPending}
                onClick={() => go(barn.id)}
              >
                Enter
              </Button>
            )}
          </Box>
        ))}
      </Box>
      {asked !== null && (
        <NotSent
          waiting={leave.waiting}
          stays="They belong to this barn: they stay here, and go when you are back in it on this device."
          anyway="Enter anyway"
          onAnyway={() => enter.mutate(asked)}
          onSent={() => setAsked(null)}
        />
      )}
      <FormTrouble error={enter.error} />
    </Box>
  );
}
