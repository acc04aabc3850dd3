import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { Refused } from "../../api/client";
import { FormTrouble } from "../../parts/states";

/** A form in a dialog. What was typed stays until it is saved or left; what the server says stands at its field. */
export function FormDialog(props: {
  title: string;
  error: Error | null;
  /** The server answers for the form as a whole: nothing it says stands at a field. */
  whole?: boolean;
  busy: boolean;
  onSave: () => void;
  onClose: () => void;
  children: ReactNode;
  more?: ReactNode;
  /** What sending is called, where nothing is kept by it. */
  save?: string;
  /** What leaving is called, where there is nothing left to cancel. */
  leave?: string;
}) {
  const told = props.error instanceof Refused ? (props.error.problem.errors ?? []) : [];
  const fields = props.whole ? 0 : told.length;
  return (
    <Dialog open onClose={props.onClose} aria-labelledby="form-title" fullWidth maxWidth="xs">
      <DialogContent>
        <Typography variant="h2" id="form-title" sx={{ mb: 2 }}>
          {props.title}
        </Typography>
        <Box
          component="form"
          noValidate
          onSubmit={(e) => (e.preventDefault(), props.onSave())}
          sx={{ display: "grid", gap: 2 }}
        >
          {props.children}
          {fields === 0 && told.length === 0 && <FormTrouble error={props.error} />}
          {props.whole && told.map((t) => <FormTrouble key={t.detail} error={new Error(t.detail)} />)}
          <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
            <Button type="submit" variant="contained" disabled={props.busy}>
              {props.save ?? "Save"}
            </Button>
            {props.more}
            <Button onClick={props.onClose}>{props.leave ?? "Cancel"}</Button>
          </Box>
        </Box>
      </DialogContent>
    </Dialog>
  );
}

/** The properties of a text field bound to one key of a form and to what the server says about it. */
export function bind<T extends Record<string, string>>(form: T, set: (form: T) => void, error: Error | null) {
  const refused = error instanceof Refused ? error : null;
  return (name: keyof T & string, label: string) => ({
    label,
    value: form[name],
    onChange: (e: { target: { value: string } }) => set({ ...form, [name]: e.target.value }),
    error: !!refused?.field(name),
    helperText: refused?.field(name),
  });
}

/** A choice from a short list; the empty choice has a name of its own. */
export function Pick(
  props: ReturnType<ReturnType<typeof bind>> & { options: [string, string][]; none?: string },
) {
  const { options, none, ...field } = props;
  return (
    <TextField select {...field} slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}>
      {none && <MenuItem value="">{none}</MenuItem>}
      {options.map(([value, name]) => (
        <MenuItem key={value} value={value}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
