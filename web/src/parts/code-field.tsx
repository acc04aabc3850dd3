import TextField from "@mui/material/TextField";

/** A field for a one-time code. */
export function CodeField(props: {
  value: string;
  onChange: (value: string) => void;
  label?: string;
  trouble?: string;
  autoFocus?: boolean;
}) {
  return (
    <TextField
      label={props.label ?? "Code from the app"}
      autoComplete="one-time-code"
      autoFocus={props.autoFocus}
      value={props.value}
      onChange={(e) => props.onChange(e.target.value)}
      error={!!props.trouble}
      helperText={props.trouble}
      slotProps={{ htmlInput: { inputMode: "numeric" } }}
    />
  );
}
