import Button from "@mui/material/Button";
import { useRef } from "react";

/** A button that opens a file of the reader's. The same file can be opened twice. */
export function OpenFile(props: { name: string; accept: string; onOpen: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant="outlined" onClick={() => input.current?.click()}>
        {props.name}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept={props.accept}
        aria-label={props.name}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) props.onOpen(file);
          e.target.value = "";
        }}
      />
    </>
  );
}
