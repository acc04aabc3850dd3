import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

/** Whether this device stays in the barn: then it stays signed in. */
export function BarnPhone(props: { on: boolean; onChange: (on: boolean) => void }) {
  return (
    <FormControlLabel
      control={<Checkbox checked={props.on} onChange={(e) => props.onChange(e.target.checked)} />}
      label="The barn's phone: stay signed in for a month. Anywhere else, half an hour without use ends it."
      slotProps={{ typography: { sx: { fontSize: "0.98rem", lineHeight: 1.35 } } }}
      sx={{ alignItems: "flex-start", "& .MuiCheckbox-root": { mt: -1 } }}
    />
  );
}
