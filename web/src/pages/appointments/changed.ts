import type { QueryClient } from "@tanstack/react-query";

/** What a changed appointment makes old. */
export function appointmentsChanged(client: QueryClient) {
  for (const key of ["appointments", "week"]) void client.invalidateQueries({ queryKey: [key] });
}
