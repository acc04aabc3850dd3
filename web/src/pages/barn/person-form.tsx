import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { bind, FormDialog, Pick } from "./form";
import { newId } from "../../parts/ids";
import { LinkFor } from "./link-for";

/** Adds or changes a person, and makes the link by which they set their password. */
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
  });
  const [saved, setSaved] = useState(person !== null);
  const save = useMutation({
    mutationFn: (archived: boolean) =>
      ask(
        api.PUT("/api/people/{id}", {
          params: { path: { id } },
          body: { version, name: form.name, email: form.email, role: form.role as Schemas["Role"], archived },
        }),
      ),
    onSuccess: (person) => {
      void client.invalidateQueries();
      // Whoever is new needs a link next, which the form then offers.
      if (saved) onClose();
      setVersion(person.version);
      setSaved(true);
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title={person ? `Change ${person.name}` : saved ? `${form.name} is added` : "Add a person"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(person?.archived ?? false)}
      onClose={onClose}
      leave={saved && !person ? "Done" : undefined}
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
      {saved && !person?.archived && <LinkFor id={id} isNew={!person?.can_sign_in} />}
    </FormDialog>
  );
}
