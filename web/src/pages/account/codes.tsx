import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { CodeField } from "../../parts/code-field";
import { FormTrouble } from "../../parts/states";

/** One-time codes from an app, asked for at sign-in beside the password. */
export function Codes({ on }: { on: boolean }) {
  const client = useQueryClient();
  const [code, setCode] = useState("");
  const changed = () => void client.invalidateQueries({ queryKey: ["account"] });
  const offer = useMutation({ mutationFn: () => ask(api.POST("/api/account/codes")) });
  const turnOn = useMutation({
    mutationFn: () => ask(api.PUT("/api/account/codes", { body: { code } })),
    onSuccess: () => {
      offer.reset();
      setCode("");
      changed();
    },
  });
  const turnOff = useMutation({
    mutationFn: () => ask(api.DELETE("/api/account/codes")),
    onSuccess: changed,
  });
  const told = turnOn.error instanceof Refused ? turnOn.error.field("code") : undefined;
  const key = offer.data?.key.replace(/(.{4})/g, "$1 ").trim();
  return (
    <Box component="section" aria-label="One-time codes">
      <Typography variant="h2">One-time codes</Typography>
      <Typography sx={{ my: 1, maxWidth: 620 }}>
        {on
          ? "On: signing in asks for a code from the app on your phone. If the phone is lost, another trainer's link sets a new password and turns codes off."
          : "Off. With codes, a password that someone saw is not enough to get in. Any app that makes six-digit codes will do."}
      </Typography>
      {on ? (
        <Button variant="outlined" disabled={turnOff.isPending} onClick={() => turnOff.mutate()}>
          Turn codes off
        </Button>
      ) : (
        !offer.data && (
          <Button variant="outlined" disabled={offer.isPending} onClick={() => offer.mutate()}>
            Set codes up
          </Button>
        )
      )}
      <FormTrouble error={offer.error ?? turnOff.error} />
      {offer.data && (
        <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", mt: 1 }}>
          <img
            alt="The key as a picture to scan with the app"
            width={200}
            height={200}
            src={`data:image/svg+xml;utf8,${encodeURIComponent(offer.data.picture)}`}
          />
          <Box
            component="form"
            noValidate
            onSubmit={(e) => (e.preventDefault(), turnOn.mutate())}
            sx={{ display: "grid", gap: 1.5, alignContent: "start", maxWidth: 340 }}
          >
            <span>
              Scan it with the app, or type the key: <b>{key}</b>
            </span>
            <CodeField label="Code that the app shows" value={code} onChange={setCode} trouble={told} />
            {!told && <FormTrouble error={turnOn.error} />}
            <Button
              type="submit"
              variant="contained"
              disabled={turnOn.isPending}
              sx={{ justifySelf: "start" }}
            >
              Turn codes on
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
