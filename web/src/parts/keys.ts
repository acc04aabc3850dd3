import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";

/** Whether a key press belongs to a field or a dialog and not to the page. */
export function typing(event: KeyboardEvent): boolean {
  const at = event.target as HTMLElement | null;
  return !!at?.closest(
    "input, textarea, select, [contenteditable], [role=dialog], [role=combobox], [role=listbox]",
  );
}

/** Single keys of a page: each does something or leads somewhere. */
export function useKeys(keys: Record<string, (() => void) | string>) {
  const navigate = useNavigate();
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || typing(event)) return;
      const act = latest.current[event.key];
      if (!act) return;
      event.preventDefault();
      if (typeof act === "string") void navigate(act);
      else act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [navigate]);
}
