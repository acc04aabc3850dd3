import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { onTape, typedLength } from "../../parts/lengths";
import { FormTrouble, PageLoading } from "../../parts/states";
import { ink, inkSoft, rule } from "../../theme/tokens";
import type { SetUp } from "./draft";

/** Where a post is, in words that are found in the pen. */
const postName = (p: Schemas["Point"], units: Schemas["Units"]) =>
  p.x === 0 && p.y === 0
    ? "the front left corner"
    : `the post ${onTape(units, p.x)} right and ${onTape(units, p.y)} up from the front left corner`;

/** The tape sheet of a set-up; it changes with the pen. */
export const tapeOf = (setUp: SetUp, ground: string, version: number) =>
  queryOptions({
    queryKey: ["tape", ground, version, setUp],
    queryFn: () => ask(api.POST("/api/patterns/tape", { body: { ground_id: ground, set_up: setUp } })),
    retry: false,
  });

/** How to lay the set-up out: two tapes from two posts, marker by marker, in the order in which it is done. */
export function TapeSheet(props: { setUp: SetUp; ground: string; version: number; units: Schemas["Units"] }) {
  const { units } = props;
  const [pace, setPace] = useState(() => localStorage.getItem("pace") ?? "");
  const metres = typedLength(units, pace);
  const paces = (length: number) => (metres && metres > 0.3 ? `${(length / metres).toFixed(1)} paces` : null);
  const { data: sheet, error } = useQuery(tapeOf(props.setUp, props.ground, props.version));
  if (error) return <FormTrouble error={error} />;
  if (!sheet) return <PageLoading what="the tape sheet" />;
  const mixed = sheet.marks.some((m) => m.left !== sheet.marks[0]?.left);
  const long = (length: number) => (
    <>
      {onTape(units, length)}
      {paces(length) && (
        <Box component="span" sx={{ display: "block", fontSize: "0.85rem", fontWeight: 400, color: inkSoft }}>
          {paces(length)}
        </Box>
      )}
    </>
  );
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Typography>
        <b>A</b>: {postName(sheet.a, units)}. <b>B</b>: {postName(sheet.b, units)}. From A to B it is{" "}
        <b>{onTape(units, sheet.base)}</b>: if it is not, it is the wrong post.
      </Typography>
      <Box
        component="table"
        sx={{
          width: "100%",
          borderCollapse: "collapse",
          fontSize: { xs: "1.1rem", sm: "1.2rem" },
          "& th": { textAlign: "left", fontSize: "0.9rem", color: inkSoft, fontWeight: 600 },
          "& td, & th": { py: 0.75, pr: 1, borderBottom: `1px solid ${rule}` },
          "& td": { fontWeight: 650 },
          "@media print": { fontSize: "1.7rem" },
        }}
      >
        <thead>
          <tr>
            <th>Marker</th>
            <th>From A</th>
            <th>From B</th>
            <th>Off by</th>
          </tr>
        </thead>
        <tbody>
          {sheet.marks.map((mark) => (
            <tr key={mark.name}>
              <td>
                {mark.name}
                {mixed && `, ${mark.left ? "left" : "right"}`}
              </td>
              <td>{long(mark.a)}</td>
              <td>{long(mark.b)}</td>
              <td>{onTape(units, mark.off)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Typography sx={{ color: inkSoft }}>
        {mixed
          ? "Left and right are as you look from A to B."
          : `All lie to the ${sheet.marks[0]?.left ? "left" : "right"} as you look from A to B.`}{" "}
        “Off by” is what half a foot of slip on either tape does at the worst.
      </Typography>
      <Typography sx={{ fontWeight: 650, borderTop: `2px solid ${ink}`, pt: 1 }}>
        Then check across
      </Typography>
      <Box
        component="ul"
        sx={{ m: 0, pl: 0, listStyle: "none", display: "grid", gap: 0.5, fontSize: "1.1rem" }}
      >
        {sheet.checks.map((check) => (
          <Box
            component="li"
            key={check.from + check.to}
            sx={{ display: "flex", justifyContent: "space-between" }}
          >
            <span>
              {check.from} to {check.to}
            </span>
            <b>{onTape(units, check.length)}</b>
          </Box>
        ))}
      </Box>
      <Typography component="div" sx={{ color: inkSoft }}>
        <b>Alone:</b> hook the tape on A, walk an arc at the first length and scratch the ground where it
        passes; hook it on B and cross the arc. <b>With two:</b> one holds A’s tape, one B’s; the marker goes
        where both come tight.
      </Typography>
      <Box className="no-print" sx={{ display: "flex", gap: 1.5, alignItems: "center" }}>
        <Button variant="contained" onClick={() => window.print()}>
          Print the sheet
        </Button>
        <TextField
          label="Your pace"
          value={pace}
          placeholder={units === "metric" ? "0.90 m" : "3 ft"}
          onChange={(e) => {
            setPace(e.target.value);
            localStorage.setItem("pace", e.target.value);
          }}
          sx={{ maxWidth: 140 }}
        />
      </Box>
    </Box>
  );
}
