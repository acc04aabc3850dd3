import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { ink } from "../../theme/tokens";

/** A need or a remedy, to be opened. */
export function RungLink(props: {
  id: string;
  book: Schemas["CurriculumOut"];
  onPick: (id: string) => void;
}) {
  const [at = "", from] = props.id.split(" from ");
  const [id = "", gait] = at.split("@");
  const name = props.book.rungs.find((r) => r.id === id)?.name ?? "";
  return (
    <Box
      component="button"
      type="button"
      onClick={() => props.onPick(id)}
      sx={{
        font: "inherit",
        background: "none",
        border: 0,
        p: 0,
        minHeight: 26,
        color: ink,
        fontWeight: 650,
        textDecoration: "underline",
        textUnderlineOffset: "3px",
        cursor: "pointer",
      }}
    >
      {`${id} ${name}${gait ? ` at the ${gait}` : ""}${from ? `, from the ${from} on` : ""}`}
    </Box>
  );
}
