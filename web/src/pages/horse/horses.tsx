import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import TableSortLabel from "@mui/material/TableSortLabel";
import Typography from "@mui/material/Typography";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { overview } from "../../api/queries";
import { CallStamp } from "../../parts/mark";
import { useMe } from "../../parts/me";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { ink, inkSoft, rule, sideColour } from "../../theme/tokens";
import { columns, daysSince, sorted, type Column } from "./sorted";

type Horse = Schemas["OverviewHorse"];

/** Every horse in work: what it is on, what is called, and what comes next; sorted by any of them. */
export function Horses() {
  const me = useMe();
  const wide = useMediaQuery("(min-width: 700px)");
  const { data, error, refetch } = useQuery(overview);
  const [by, setBy] = useState<Column>("name");
  const [down, setDown] = useState(false);
  if (error && !data)
    return (
      <PageTrouble title="Couldn't load the horses" detail={error.message} again={() => void refetch()} />
    );
  if (!data) return <PageLoading what="the horses" />;
  const horses = sorted(data.horses, by, down);
  const sortBy = (column: Column) => {
    setDown(column === by ? !down : false);
    setBy(column);
  };
  return (
    <>
      <Box sx={{ display: "flex", gap: 1, mb: 2, alignItems: "end", flexWrap: "wrap" }}>
        <Typography variant="h1" sx={{ flex: 1, minWidth: 220 }}>
          Horses in work
        </Typography>
        <Button component={Link} to="/horses/owned" variant="outlined">
          Who owns what
        </Button>
        {me.role === "trainer" && (
          <Button component={Link} to="/horses/alarms" variant="outlined">
            Alarms
          </Button>
        )}
      </Box>
      {horses.length === 0 && <Empty>No horse is here yet. A trainer adds horses on the Barn page.</Empty>}
      {horses.length > 0 && wide && (
        <Table size="small" aria-label="Horses in work" sx={{ "& td, & th": { borderColor: rule, px: 1 } }}>
          <TableHead>
            <TableRow>
              {columns.map((column) => (
                <TableCell
                  key={column.id}
                  sortDirection={by === column.id && (down ? "desc" : "asc")}
                  sx={{ fontWeight: 700, color: ink, borderBottom: `2px solid ${ink} !important` }}
                >
                  <TableSortLabel
                    active={by === column.id}
                    direction={by === column.id && down ? "desc" : "asc"}
                    onClick={() => sortBy(column.id)}
                  >
                    {column.name}
                  </TableSortLabel>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {horses.map((h) => (
              <TableRow key={h.id} hover>
                <TableCell component="th" scope="row">
                  <Name horse={h} />
                </TableCell>
                <TableCell>
                  <Subject horse={h} />
                </TableCell>
                <TableCell>{h.call && <CallStamp call={h.call} />}</TableCell>
                <TableCell>{ridden(h, data.date)}</TableCell>
                <TableCell>
                  <Stiff horse={h} />
                </TableCell>
                <TableCell>
                  <Next horse={h} today={data.date} />
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      {horses.length > 0 && !wide && (
        <>
          <Box role="group" aria-label="Sort by" sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mb: 1 }}>
            {columns.map((column) => (
              <Button
                key={column.id}
                size="small"
                variant={by === column.id ? "contained" : "outlined"}
                aria-pressed={by === column.id}
                onClick={() => sortBy(column.id)}
              >
                {column.name}
              </Button>
            ))}
          </Box>
          <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {horses.map((h) => (
              <Box
                component="li"
                key={h.id}
                sx={{ borderTop: `1px solid ${rule}`, py: 1, display: "grid", gap: 0.25 }}
              >
                <Box sx={{ display: "flex", gap: 1, alignItems: "center", justifyContent: "space-between" }}>
                  <Name horse={h} />
                  {h.call && <CallStamp call={h.call} />}
                </Box>
                <Subject horse={h} />
                <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", color: inkSoft }}>
                  <span>{ridden(h, data.date)}</span>
                  <Stiff horse={h} />
                  <Next horse={h} today={data.date} />
                </Box>
              </Box>
            ))}
          </Box>
        </>
      )}
    </>
  );
}

function Name({ horse }: { horse: Horse }) {
  return (
    <Box
      component={Link}
      to={`/horses/${horse.id}`}
      sx={{ color: ink, fontWeight: 700, fontSize: "1.08rem", display: "inline-block", py: 0.75 }}
    >
      {horse.name}
    </Box>
  );
}

function Subject({ horse }: { horse: Horse }) {
  if (!horse.subject) return <Box sx={{ color: inkSoft }}>nothing yet</Box>;
  return (
    <Box>
      {horse.subject}
      <Box component="span" sx={{ color: inkSoft, display: "block", fontSize: "0.9rem" }}>
        {horse.ladder}
      </Box>
    </Box>
  );
}

function Stiff({ horse }: { horse: Horse }) {
  if (horse.stiff !== "left" && horse.stiff !== "right") return null;
  return (
    <Box component="span" sx={{ color: sideColour[horse.stiff], fontWeight: 650, whiteSpace: "nowrap" }}>
      stiff {horse.stiff}
    </Box>
  );
}

function Next({ horse, today }: { horse: Horse; today: string }) {
  if (!horse.next) return <Box sx={{ color: inkSoft }}>nothing planned</Box>;
  const { date, title } = horse.next;
  return (
    <Box component="span">
      <b>{date === today ? "Today" : day(date)}</b> {title}
    </Box>
  );
}

function ridden(horse: Horse, today: string): string {
  const days = daysSince(horse, today);
  if (days === null) return "not ridden yet";
  if (days <= 0) return "ridden today";
  return days === 1 ? "ridden yesterday" : `ridden ${days} days ago`;
}
