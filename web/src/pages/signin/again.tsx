import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import { PasswordForm } from "./signin";

/** The sign-in over the page as it stands, for whoever was signed out meanwhile. */
export function SignInAgain({ demo, onDone }: { demo: boolean; onDone: () => void }) {
  return (
    <Dialog open aria-labelledby="lost-title" maxWidth="xs" fullWidth>
      <DialogContent>
        <PasswordForm
          title="Signed out meanwhile"
          lead="Sign in to continue. What you logged is kept and will be sent."
          demo={demo}
          onDone={onDone}
        />
      </DialogContent>
    </Dialog>
  );
}
