import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { api, ask } from "../api/client";
import { inkSoft, marigold, oxblood, pine, rule } from "../theme/tokens";

const words = ["guessed at once", "guessed soon", "weak", "good", "strong"];
const colours = [oxblood, oxblood, marigold, pine, pine];

/** A field for a new password. The server says how strong it is, by the rules that it takes one by. */
export function NewPassword(props: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What the person goes by: no good in a password. */
  known: string[];
  trouble?: string;
}) {
  const password = useDeferredValue(props.value);
  const judged = useQuery({
    queryKey: ["password-strength", password],
    queryFn: () => ask(api.POST("/api/password-strength", { body: { password, known: props.known } })),
    enabled: password.length > 0,
    placeholderData: keepPreviousData,
    // A password is not kept in the page longer than its field.
    gcTime: 0,
    retry: false,
  }).data;
  const strength = props.value && judged ? judged.strength : null;
  return (
    <Box>
      <TextField
        label={props.label}
        type="password"
        autoComplete="new-password"
        fullWidth
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        error={!!props.trouble}
        helperText={props.trouble}
      />
      <Box aria-hidden="true" sx={{ display: "flex", gap: 0.5, mt: 0.75 }}>
        {words.slice(1).map((word, n) => (
          <Box
            key={word}
            sx={{
              flex: 1,
              height: 6,
              background: strength !== null && strength > n ? colours[strength] : rule,
            }}
          />
        ))}
      </Box>
      <Typography role="status" sx={{ color: inkSoft, fontSize: "0.92rem", minHeight: "1.4em" }}>
        {props.trouble
          ? null
          : strength === null
            ? "12 characters or more; four words that do not belong together are easy to keep."
            : `${(words[strength] ?? "").replace(/^./, (c) => c.toUpperCase())}${judged?.why_not ? `: ${judged.why_not}` : "."}`}
      </Typography>
    </Box>
  );
}
