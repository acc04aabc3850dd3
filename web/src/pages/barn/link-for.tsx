import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { FormTrouble } from "../../parts/states";
import { moment } from "../../parts/words";
import { inkSoft, rule } from "../../theme/tokens";

/** Makes the link by which a person sets their own password, for the trainer to pass on. */
export function LinkFor({ id, isNew }: { id: string; isNew: boolean }) {
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/people/{id}/link", { params: { path: { id } } })),
  });
  const address = make.data ? window.location.origin + make.data.path : "";
  const copy = useMutation({ mutationFn: () => navigator.clipboard.writeText(address) });
  return (
    <Box sx={{ borderTop: `1px solid ${rule}`, pt: 1.5, display: "grid", gap: 1 }}>
      {make.data ? (
        <>
          <Typography>Pass this on. It works once, until {moment(make.data.expires_at)}:</Typography>
          <TextField
            label="Link"
            value={address}
            onFocus={(e) => e.target.select()}
            slotProps={{ htmlInput: { readOnly: true } }}
          />
          <Button variant="outlined" onClick={() => copy.mutate()} sx={{ justifySelf: "start" }}>
            {copy.isSuccess ? "Copied" : "Copy the link"}
          </Button>
          {copy.isError && <span>Couldn't copy it: select it and copy it by hand.</span>}
        </>
      ) : (
        <>
          <Button
            variant="outlined"
            disabled={make.isPending}
            onClick={() => make.mutate()}
            sx={{ justifySelf: "start" }}
          >
            {isNew ? "Invite by link" : "Reset the password by link"}
          </Button>
          <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
            {isNew
              ? "They set their own password behind it."
              : "They set a new password behind it; until then the old one holds."}
          </Typography>
        </>
      )}
      <FormTrouble error={make.error} />
    </Box>
  );
}
