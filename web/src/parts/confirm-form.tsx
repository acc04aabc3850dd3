import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../api/client";
import { CodeField } from "./code-field";
import { FormTrouble } from "./states";

/** The password once more, in a dialog. */
export function ConfirmForm({ onDone }: { onDone: (given: boolean) => void }) {
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const give = useMutation({
    mutationFn: () => ask(api.POST("/api/confirm", { body: { password, code: code || null } })),
    onSuccess: () => onDone(true),
  });
  const wantsCode = give.error instanceof Refused && give.error.problem.type === "/problems/code-needed";
  return (
    <Dialog open onClose={() => onDone(false)} aria-labelledby="confirm-title" maxWidth="xs" fullWidth>
      <DialogContent>
        <Typography variant="h2" id="confirm-title">
          Your password, once more
        </Typography>
        <Typography sx={{ my: 1 }}>
          Asked before people are changed or something is put away. It holds for ten minutes.
        </Typography>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), give.mutate())}
          sx={{ display: "grid", gap: 2 }}
        >
          <TextField
            label="Password"
            type="password"
            autoComplete="current-password"
            autoFocus
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          {(wantsCode || code !== "") && <CodeField value={code} onChange={setCode} />}
          <FormTrouble error={give.error} />
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button type="submit" variant="contained" disabled={give.isPending}>
              Go on
            </Button>
            <Button onClick={() => onDone(false)}>Cancel</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
