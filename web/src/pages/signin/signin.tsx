import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { api, ask, Refused, type Schemas } from "../../api/client";
import { setup } from "../../api/queries";
import { BarnPhone } from "../../parts/barn-phone";
import { CodeField } from "../../parts/code-field";
import { NewPassword } from "../../parts/new-password";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { denim, rust } from "../../theme/tokens";
import { Cover } from "./cover";

/** The way in: with a password, as one of the demo's people, or as the first trainer of a new barn. */
export function SignIn({ unreachable }: { unreachable: string | null }) {
  const client = useQueryClient();
  const state = useQuery(setup);
  const enter = () => void client.invalidateQueries();
  if (unreachable || state.isError)
    return (
      <PageTrouble
        title="The barn is not answering"
        detail={unreachable ?? state.error?.message ?? ""}
        again={enter}
      />
    );
  if (!state.data) return <PageLoading what="the barn" />;
  return (
    <Cover>
      {state.data.needs_first_trainer ? (
        <FirstTrainer onDone={enter} />
      ) : (
        <PasswordForm title="Sign in" lead="" demo={state.data.demo} onDone={enter} />
      )}
    </Cover>
  );
}

const demoPeople: { role: Schemas["Role"]; label: string }[] = [
  { role: "trainer", label: "Trainer" },
  { role: "assistant", label: "Assistant" },
  { role: "owner", label: "Owner, reads only" },
];

/** E-mail and password, and in the demo a button for each of its people. */
export function PasswordForm(props: { title: string; lead: string; demo: boolean; onDone: () => void }) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [phone, setPhone] = useState(false);
  const sign = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/sign-in", { body: { email, password, code: code || null, barn_phone: phone } })),
    onSuccess: props.onDone,
  });
  const wantsCode = sign.error instanceof Refused && sign.error.problem.type === "/problems/code-needed";
  const demo = useMutation({
    mutationFn: (role: Schemas["Role"]) => ask(api.POST("/api/demo-sign-in", { body: { role } })),
    onSuccess: props.onDone,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    sign.mutate();
  };
  return (
    <Box>
      <Typography variant="h1" id="lost-title">
        {props.title}
      </Typography>
      {props.lead && <Typography sx={{ mt: 1 }}>{props.lead}</Typography>}
      {props.demo && (
        <Box sx={{ my: 3 }}>
          <Typography sx={{ mb: 1, fontWeight: 650 }}>This is the demo barn. Sign in as</Typography>
          <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
            {demoPeople.map(({ role, label }, n) => (
              <Button
                key={role}
                variant={n === 0 ? "contained" : "outlined"}
                size="large"
                disabled={demo.isPending}
                onClick={() => demo.mutate(role)}
              >
                {label}
              </Button>
            ))}
          </Box>
          <FormTrouble error={demo.error} />
        </Box>
      )}
      <Box component="form" onSubmit={submit} sx={{ display: "grid", gap: 2, mt: 3, maxWidth: 420 }}>
        {props.demo && <Typography sx={{ fontWeight: 650 }}>or with a password</Typography>}
        <TextField
          label="E-mail"
          type="email"
          autoComplete="username"
          required
          value={email}
          onChange={(e) => setEmail(e.target.value)}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        {(wantsCode || code !== "") && <CodeField value={code} onChange={setCode} autoFocus />}
        <BarnPhone on={phone} onChange={setPhone} />
        <FormTrouble error={sign.error} />
        <Button
          type="submit"
          variant={props.demo ? "outlined" : "contained"}
          disabled={sign.isPending}
          sx={{ justifySelf: "start" }}
        >
          Sign in
        </Button>
      </Box>
    </Box>
  );
}

function FirstTrainer({ onDone }: { onDone: () => void }) {
  const [form, setForm] = useState({
    barn_name: "",
    name: "",
    email: "",
    password: "",
    time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  });
  const create = useMutation({
    mutationFn: () => ask(api.POST("/api/setup", { body: form })),
    onSuccess: onDone,
  });
  const refused = create.error instanceof Refused ? create.error : null;
  const field = (name: keyof typeof form, label: string, more: object = {}) => (
    <TextField
      label={label}
      value={form[name]}
      onChange={(e) => setForm({ ...form, [name]: e.target.value })}
      error={!!refused?.field(name)}
      helperText={refused?.field(name)}
      {...more}
    />
  );
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => (e.preventDefault(), create.mutate())}
      sx={{ display: "grid", gap: 2, maxWidth: 460 }}
    >
      <Typography variant="h1">Create your barn</Typography>
      <Typography>You are the first trainer here. Add the others later.</Typography>
      {field("barn_name", "Name of the barn", { autoFocus: true })}
      {field("name", "Your name", { autoComplete: "name" })}
      {field("email", "E-mail, to sign in with", { type: "email", autoComplete: "username" })}
      <NewPassword
        label="Password"
        value={form.password}
        onChange={(password) => setForm({ ...form, password })}
        known={[form.name, form.email, form.barn_name]}
        trouble={refused?.field("password")}
      />
      {field("time_zone", "Time zone")}
      {refused?.problem.errors ? null : <FormTrouble error={create.error} />}
      <Button type="submit" variant="contained" disabled={create.isPending} sx={{ justifySelf: "start" }}>
        Open the barn
      </Button>
      <Box sx={{ height: 4, background: `linear-gradient(90deg, ${denim} 50%, ${rust} 50%)` }} />
    </Box>
  );
}
