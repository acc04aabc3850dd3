import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, Refused } from "../../api/client";
import { account } from "../../api/queries";
import { CodeField } from "../../parts/code-field";
import { useMe } from "../../parts/me";
import { NewPassword } from "../../parts/new-password";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { inkSoft, pine } from "../../theme/tokens";
import { Codes } from "./codes";
import { Devices } from "./devices";

/** One's own account: the password, one-time codes, and where one is signed in. */
export function Account() {
  const me = useMe();
  const { data, error, refetch } = useQuery(account);
  if (error && !data)
    return (
      <PageTrouble title="Couldn't load your account" detail={error.message} again={() => void refetch()} />
    );
  if (!data) return <PageLoading what="your account" />;
  return (
    <Box sx={{ display: "grid", gap: 4, maxWidth: 820 }}>
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "end" }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">{me.name}</Typography>
          <Typography sx={{ color: inkSoft }}>You sign in with {data.email}.</Typography>
        </Box>
        <Button component={Link} to="/barn" variant="outlined">
          Back to the barn
        </Button>
      </Box>
      <Devices />
      {data.has_password ? (
        <>
          <Password known={[me.name, data.email]} codes={data.codes} />
          <Codes on={data.codes} />
        </>
      ) : (
        <Typography sx={{ color: inkSoft }}>
          You came in by the demo's button: this account has no password to change.
        </Typography>
      )}
    </Box>
  );
}

function Password({ known, codes }: { known: string[]; codes: boolean }) {
  const client = useQueryClient();
  const empty = { current: "", code: "", password: "" };
  const [form, setForm] = useState(empty);
  const save = useMutation({
    mutationFn: () => ask(api.PUT("/api/account/password", { body: { ...form, code: form.code || null } })),
    onSuccess: () => {
      setForm(empty);
      void client.invalidateQueries({ queryKey: ["sessions"] });
    },
  });
  const told = save.error instanceof Refused ? save.error.field("password") : undefined;
  return (
    <Box component="section" aria-label="Password">
      <Typography variant="h2" sx={{ mb: 1.5 }}>
        Change your password
      </Typography>
      <Box
        component="form"
        noValidate
        onSubmit={(e) => (e.preventDefault(), save.mutate())}
        sx={{ display: "grid", gap: 2, maxWidth: 480 }}
      >
        <TextField
          label="Current password"
          type="password"
          autoComplete="current-password"
          value={form.current}
          onChange={(e) => setForm({ ...form, current: e.target.value })}
        />
        {codes && <CodeField value={form.code} onChange={(code) => setForm({ ...form, code })} />}
        <NewPassword
          label="New password"
          value={form.password}
          onChange={(password) => setForm({ ...form, password })}
          known={known}
          trouble={told}
        />
        {!told && <FormTrouble error={save.error} />}
        {save.isSuccess && (
          <Typography role="status" sx={{ color: pine, fontWeight: 650 }}>
            Changed. Your other devices are signed out.
          </Typography>
        )}
        <Button type="submit" variant="contained" disabled={save.isPending} sx={{ justifySelf: "start" }}>
          Change the password
        </Button>
      </Box>
    </Box>
  );
}
