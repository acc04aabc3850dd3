import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQueryClient } from "@tanstack/react-query";
import { keepFor } from "../../offline/device";
import { flush, useOutbox } from "../../offline/outbox";
import { marigold } from "../../theme/tokens";

/** What one leaves behind on this device: what is not sent yet, and what was kept of the day. */
export function useLeave() {
  const client = useQueryClient();
  const { waiting } = useOutbox();
  const now = async () => {
    await keepFor(null);
    client.clear();
    window.location.assign("/");
  };
  return { waiting: waiting.length, now };
}

/** Some of what was logged here is not sent yet: it is sent first, or stays on the device. */
export function NotSent(props: {
  waiting: number;
  stays: string;
  anyway: string;
  onAnyway: () => void;
  onSent: () => void;
}) {
  return (
    <Box
      role="alertdialog"
      aria-label="Not sent yet"
      sx={{ borderLeft: `6px solid ${marigold}`, pl: 1.5, width: "100%" }}
    >
      <b>{props.waiting} on this device are not sent yet.</b> {props.stays}{" "}
      <Button variant="outlined" onClick={() => void flush().then(props.onSent)}>
        Send them first
      </Button>{" "}
      <Button onClick={props.onAnyway}>{props.anyway}</Button>
    </Box>
  );
}
