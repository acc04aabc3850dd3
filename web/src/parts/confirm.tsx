import { Suspense, useEffect, useRef, useState } from "react";
import { whenToConfirm } from "../api/client";
import { onDemand } from "./on-demand";

const ConfirmForm = onDemand(() => import("./confirm-form").then((m) => m.ConfirmForm));

/** Asks for the password once more where the server wants it, and lets what was being saved go on. */
export function Confirm() {
  const [open, setOpen] = useState(false);
  const answer = useRef<(given: boolean) => void>(() => undefined);
  useEffect(
    () =>
      whenToConfirm(() => {
        setOpen(true);
        return new Promise((done) => (answer.current = done));
      }),
    [],
  );
  const close = (given: boolean) => {
    setOpen(false);
    answer.current(given);
  };
  return open ? (
    <Suspense fallback={null}>
      <ConfirmForm onDone={close} />
    </Suspense>
  ) : null;
}
