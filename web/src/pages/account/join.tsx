import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "react-router";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { BarnPhone } from "../../parts/barn-phone";
import { CodeField } from "../../parts/code-field";
import { NewPassword } from "../../parts/new-password";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { Cover } from "../signin/cover";

/** Behind an invitation or a reset: one sets a password and is in. */
export function Join() {
  // The token stands behind the #, which browsers do not send; it leaves the address bar when it was used. Another link in the same tab
  // changes only that.
  const token = useLocation().hash.slice(1);
  const link = useQuery({
    queryKey: ["link", token],
    queryFn: () => ask(api.POST("/api/links/look", { body: { token } })),
    retry: false,
  });
  if (link.error) return <PageTrouble title="The link has ended" detail={link.error.message} />;
  if (!link.data) return <PageLoading what="the link" />;
  const Way = link.data.has_account ? WithAccount : WithNewPassword;
  return (
    <Cover>
      <Way key={token} token={token} link={link.data} />
    </Cover>
  );
}

type WayIn = { token: string; link: Schemas["LinkPerson"] };

const enter = () => window.location.replace("/");

/** Someone who signs in elsewhere with this address shows that it is them. */
function WithAccount({ token, link: { name, email, barn } }: WayIn) {
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [phone, setPhone] = useState(false);
  const join = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/links/join", { body: { token, password, code: code || null, barn_phone: phone } })),
    onSuccess: enter,
  });
  const wantsCode = join.error instanceof Refused && join.error.problem.type === "/problems/code-needed";
  return (
    <>
      <Typography variant="h1">{`Welcome to ${barn}, ${name}`}</Typography>
      <Typography sx={{ mt: 1 }}>
        You have an account with <b>{email}</b> in another barn. Give its password, and you are in both.
      </Typography>
      <Box
        component="form"
        noValidate
        onSubmit={(e) => (e.preventDefault(), join.mutate())}
        sx={{ display: "grid", gap: 2, mt: 3 }}
      >
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        {(wantsCode || code !== "") && <CodeField value={code} onChange={setCode} autoFocus />}
        <BarnPhone on={phone} onChange={setPhone} />
        {!(wantsCode && code === "") && <FormTrouble error={join.error} />}
        <Button type="submit" variant="contained" disabled={join.isPending} sx={{ justifySelf: "start" }}>
          Join {barn}
        </Button>
      </Box>
    </>
  );
}

/** Someone new, or who forgot their password, sets one. */
function WithNewPassword({ token, link: { name, email, barn, is_new } }: WayIn) {
  const [password, setPassword] = useState("");
  const [phone, setPhone] = useState(false);
  const use = useMutation({
    mutationFn: () => ask(api.POST("/api/links/use", { body: { token, password, barn_phone: phone } })),
    onSuccess: enter,
  });
  const told = use.error instanceof Refused ? use.error.field("password") : undefined;
  return (
    <>
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
    </>
  );
}
