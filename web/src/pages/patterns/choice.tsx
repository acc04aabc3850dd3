import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";

/** One of some things by name. */
export function Choice(props: {
  label: string;
  value: string;
  of: [string, string][];
  onPick: (id: string) => void;
  wide?: boolean;
}) {
  return (
    <TextField
      select
      label={props.label}
      value={props.value}
      onChange={(e) => props.onPick(e.target.value)}
      sx={{ width: { xs: "100%", sm: props.wide ? "100%" : 190 }, mb: props.wide ? 1 : 0 }}
    >
      {props.of.map(([id, name]) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
