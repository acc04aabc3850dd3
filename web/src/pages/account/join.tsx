import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { BarnPhone } from "../../parts/barn-phone";
import { NewPassword } from "../../parts/new-password";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { Cover } from "../signin/cover";

/** Behind an invitation or a reset: one sets a password and is in. */
export function Join() {
  // The token stands behind the #, which browsers do not send; it leaves the address bar when it was used.
  const [token] = useState(() => window.location.hash.slice(1));
  const link = useQuery({
    queryKey: ["link", token],
    queryFn: () => ask(api.POST("/api/links/look", { body: { token } })),
    retry: false,
  });
  const [password, setPassword] = useState("");
  const [phone, setPhone] = useState(false);
  const use = useMutation({
    mutationFn: () => ask(api.POST("/api/links/use", { body: { token, password, barn_phone: phone } })),
    onSuccess: () => window.location.replace("/"),
  });
  if (link.error) return <PageTrouble title="The link has ended" detail={link.error.message} />;
  if (!link.data) return <PageLoading what="the link" />;
  const { name, email, barn, is_new } = link.data;
  const told = use.error instanceof Refused ? use.error.field("password") : undefined;
  return (
    <Cover>
      <Typography variant="h1">
        {is_new ? `Welcome to ${barn}, ${name}` : `A new password for ${name}`}
      </Typography>
      <Typography sx={{ mt: 1 }}>
        You sign in with <b>{email}</b> and the password you set here.
        {!is_new &&
          " Your other devices are signed out, and one-time codes are off until you turn them on again."}
      </Typography>
      <Box
        component="form"
        noValidate
        onSubmit={(e) => (e.preventDefault(), use.mutate())}
        sx={{ display: "grid", gap: 2, mt: 3 }}
      >
        <NewPassword
          label="Password"
          value={password}
          onChange={setPassword}
          known={[name, email, barn]}
          trouble={told}
        />
        <BarnPhone on={phone} onChange={setPhone} />
        {!told && <FormTrouble error={use.error} />}
        <Button type="submit" variant="contained" disabled={use.isPending} sx={{ justifySelf: "start" }}>
          Set the password
        </Button>
      </Box>
    </Cover>
  );
}
