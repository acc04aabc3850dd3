import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { FormTrouble } from "../../parts/states";
import { NotSent, useLeave } from "./leave";

/** Signs out, here or on every device. */
export function SignOut() {
  const leave = useLeave();
  const out = useMutation({
    mutationFn: (everywhere: boolean) =>
      ask(everywhere ? api.POST("/api/sign-out-everywhere") : api.POST("/api/sign-out")),
    onSuccess: leave.now,
  });
  const [asked, setAsked] = useState<boolean | null>(null);
  const go = (everywhere: boolean) => (leave.waiting > 0 ? setAsked(everywhere) : out.mutate(everywhere));
  return (
    <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
      <Button variant="outlined" disabled={out.isPending} onClick={() => go(false)}>
        Sign out
      </Button>
      <Button disabled={out.isPending} onClick={() => go(true)}>
        Sign out everywhere
      </Button>
      {asked !== null && (
        <NotSent
          waiting={leave.waiting}
          stays="They stay here, and go when you sign in again on this device; nobody else sees them before."
          anyway="Sign out anyway"
          onAnyway={() => out.mutate(asked)}
          onSent={() => setAsked(null)}
        />
      )}
      <FormTrouble error={out.error} />
    </Box>
  );
}
