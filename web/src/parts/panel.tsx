import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { ink, paper, rule } from "../theme/tokens";

/**
 * A framed piece of a page: under an ink line, or with a coloured edge on its left where the colour says something. It is named
 * by a heading in it (`by`, its id) or by a word; one that `tells` is read out when it comes.
 */
export function Panel(props: {
  by?: string;
  name?: string;
  edge?: string;
  tells?: boolean;
  tight?: boolean;
  below?: number;
  children: ReactNode;
}) {
  const { edge } = props;
  return (
    <Box
      component={props.tells ? "div" : "section"}
      role={props.tells ? "status" : undefined}
      aria-labelledby={props.by}
      aria-label={props.name}
      sx={{
        background: paper,
        border: `1px solid ${rule}`,
        ...(edge ? { borderLeft: `6px solid ${edge}` } : { borderTop: `2px solid ${ink}` }),
        p: props.tight ? 1.5 : 2,
        mb: props.below,
        minWidth: 0,
      }}
    >
      {props.children}
    </Box>
  );
}
