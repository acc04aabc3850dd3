import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

/** What can be done in the form of a correction; where someone was quicker, to see what it is now. */
export function CorrectionActions(props: {
  stale: boolean;
  busy: boolean;
  maySave?: boolean;
  onShowNow: () => void;
  onRemove: () => void;
  onCancel: () => void;
}) {
  const { busy, maySave = true } = props;
  return (
    <>
      {props.stale && (
        <Button variant="outlined" onClick={props.onShowNow}>
          Show it as it is now
        </Button>
      )}
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
        <Button type="submit" variant="contained" disabled={busy || !maySave}>
          Save
        </Button>
        <Button variant="outlined" color="error" disabled={busy} onClick={props.onRemove}>
          Take it out
        </Button>
        <Button onClick={props.onCancel}>Cancel</Button>
      </Box>
    </>
  );
}
