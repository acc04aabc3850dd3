import type { Schemas } from "../../api/client";

export const kindName: Record<Schemas["AppointmentKind"], string> = {
  farrier: "Farrier",
  vet: "Vet",
  dentist: "Dentist",
  owner: "Owner's visit",
  show: "Show",
  "lay-up": "Lay-up",
  other: "Something else",
};
