import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { FirstDay } from "../../parts/first-day";
import type { TackLog } from "../../parts/tack-log";

/** The list of a first day in leverage, over the pads. */
export function FirstDaySheet(props: { list: Schemas["FirstDayOut"]; log: TackLog; onClose: () => void }) {
  return (
    <Dialog open fullScreen onClose={props.onClose} aria-labelledby="first-day-title">
      <DialogContent>
        <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, mb: 1.5 }}>
          <Typography variant="h2" id="first-day-title">
            First day in leverage
          </Typography>
          <Button variant="outlined" onClick={props.onClose} sx={{ flex: "none", minHeight: 44 }}>
            Back to the ride
          </Button>
        </Box>
        <FirstDay list={props.list} log={props.log} />
      </DialogContent>
    </Dialog>
  );
}
