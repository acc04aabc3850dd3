import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { bind, FormDialog, Pick } from "./form";
import { newId } from "../../parts/ids";

/** Adds or changes a person, and sets a password. */
export function PersonForm({
  person,
  onClose,
}: {
  person: Schemas["PersonOut"] | null;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [id] = useState(() => person?.id ?? newId());
  const [version, setVersion] = useState(person?.version ?? null);
  const [form, setForm] = useState({
    name: person?.name ?? "",
    email: person?.email ?? "",
    role: (person?.role ?? "assistant") as string,
    password: "",
  });
  const save = useMutation({
    mutationFn: async (archived: boolean) => {
      const params = { params: { path: { id } } };
      const { name, email, password } = form;
      const saved = await ask(
        api.PUT("/api/people/{id}", {
          ...params,
          body: { version, name, email, role: form.role as Schemas["Role"], archived },
        }),
      );
      // If the password is refused, the person is saved already; saving again goes on from there.
      setVersion(saved.version);
      if (password) await ask(api.PUT("/api/people/{id}/password", { ...params, body: { password } }));
    },
    onSuccess: () => {
      void client.invalidateQueries();
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title={person ? `Change ${person.name}` : "Add a person"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(person?.archived ?? false)}
      onClose={onClose}
      more={
        person && (
          <Button variant="outlined" onClick={() => save.mutate(!person.archived)}>
            {person.archived ? "Restore" : "Archive"}
          </Button>
        )
      }
    >
      <TextField {...field("name", "Name")} autoFocus />
      <TextField {...field("email", "E-mail")} type="email" />
      <Pick
        {...field("role", "Role")}
        options={[
          ["trainer", "Trainer, everything"],
          ["assistant", "Assistant, rides and logs"],
          ["owner", "Owner, reads their own horses"],
        ]}
      />
      <TextField
        {...field("password", person ? "New password, empty to leave it" : "Password, 10 characters or more")}
        type="password"
        autoComplete="new-password"
      />
    </FormDialog>
  );
}
