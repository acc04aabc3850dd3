import Box from "@mui/material/Box";
import { inkSoft } from "../../../theme/tokens";
import type { Note } from "./figure-words";

/** What is to be minded in a figure, each with its line. */
export function NoteList({ notes }: { notes: Note[] }) {
  return notes.map((note) => (
    <Box key={`${note.line} ${note.text}`} sx={{ display: "flex", gap: 1, py: 0.4 }}>
      <Box sx={{ color: inkSoft, minWidth: 56 }}>{note.line === null ? "Pen" : `Line ${note.line}`}</Box>
      <span>{note.text}</span>
    </Box>
  ));
}
