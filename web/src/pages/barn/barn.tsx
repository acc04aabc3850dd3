import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { type Schemas } from "../../api/client";
import { grounds, horses, people } from "../../api/queries";
import { useMe } from "../../parts/me";
import { PageTrouble } from "../../parts/states";
import { postureName, roleName } from "../../parts/words";
import { ink, inkSoft, rule } from "../../theme/tokens";
import { BarnForm } from "./barn-form";
import { GroundForm, groundFacts } from "./ground-form";
import { HorseForm } from "./horse-form";
import { OtherBarns } from "./other-barns";
import { PersonForm } from "./person-form";
import { SignOut } from "./sign-out";

type Open =
  | { what: "horse"; horse: Schemas["HorseOut"] | null }
  | { what: "person"; person: Schemas["PersonOut"] | null }
  | { what: "ground"; ground: Schemas["GroundOut"] | null }
  | { what: "barn" }
  | null;

/** The barn: its settings, its people, its horses and its places to ride. */
export function Barn() {
  const me = useMe();
  const [archived, setArchived] = useState(false);
  const [open, setOpen] = useState<Open>(null);
  const herd = useQuery(horses(archived));
  const crew = useQuery(people(archived));
  const everyone = useQuery(people());
  const places = useQuery(grounds).data?.items ?? [];
  const manages = me.role === "trainer";
  const close = () => setOpen(null);
  const error = herd.error ?? crew.error;
  if (error && !herd.data)
    return (
      <PageTrouble title="Couldn't load the barn" detail={error.message} again={() => void herd.refetch()} />
    );
  const person = (id?: string | null) => everyone.data?.items.find((p) => p.id === id)?.name ?? "–";
  return (
    <Box sx={{ display: "grid", gap: 4 }}>
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "end" }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">{me.barn.name}</Typography>
          <Typography sx={{ color: inkSoft }}>
            Posture {postureName[me.barn.posture].toLowerCase()} · {me.barn.time_zone} · signed in as{" "}
            {me.name}, {roleName[me.role].toLowerCase()}
          </Typography>
        </Box>
        {manages && (
          <>
            <Button variant="outlined" onClick={() => setOpen({ what: "barn" })}>
              Change the barn
            </Button>
            <Button variant="outlined" component={Link} to="/barn/security">
              Security log
            </Button>
          </>
        )}
        <Button variant="outlined" component={Link} to="/barn/account">
          Your account
        </Button>
        <SignOut />
      </Box>
      {me.barns.length > 1 && <OtherBarns />}
      <Table
        title={archived ? "Archived horses" : "Horses"}
        add={manages && !archived ? () => setOpen({ what: "horse", horse: null }) : undefined}
        addLabel="Add a horse"
        head={["Name", "Foaled", "Sex", "Owner", "Usual rider", "Posture"]}
        rows={(herd.data?.items ?? []).map((h) => ({
          key: h.id,
          cells: [
            h.name,
            h.foaled ?? "–",
            h.sex ?? "–",
            person(h.owner_id),
            person(h.usual_rider_id),
            h.posture ? postureName[h.posture] : "the barn's",
          ],
          edit: manages ? () => setOpen({ what: "horse", horse: h }) : undefined,
        }))}
      />
      <Table
        title={archived ? "Archived people" : "People"}
        add={manages && !archived ? () => setOpen({ what: "person", person: null }) : undefined}
        addLabel="Add a person"
        head={["Name", "Role", "E-mail", "Signs in"]}
        rows={(crew.data?.items ?? []).map((p) => ({
          key: p.id,
          cells: [p.name, roleName[p.role], p.email ?? "–", p.can_sign_in ? "with a password" : "not yet"],
          edit: manages ? () => setOpen({ what: "person", person: p }) : undefined,
        }))}
      />
      {!archived && (
        <Table
          title="Places to ride"
          add={manages ? () => setOpen({ what: "ground", ground: null }) : undefined}
          addLabel="Add a place"
          none="None yet: rides are told by kind alone."
          head={["Name", "Kind", "Surface", "Size", "Mind"]}
          rows={places.map((g) => {
            const facts = groundFacts(g, me.barn.units);
            return {
              key: g.id,
              cells: [g.name, facts.kind, facts.surface, facts.size, g.caution ?? "–"],
              edit: manages ? () => setOpen({ what: "ground", ground: g }) : undefined,
            };
          })}
        />
      )}
      <Box>
        <Button variant="outlined" aria-pressed={archived} onClick={() => setArchived(!archived)}>
          {archived ? "Show those in work" : "Show the archived"}
        </Button>
      </Box>
      {open?.what === "horse" && (
        <HorseForm horse={open.horse} people={everyone.data?.items ?? []} onClose={close} />
      )}
      {open?.what === "person" && <PersonForm person={open.person} onClose={close} />}
      {open?.what === "ground" && <GroundForm ground={open.ground} onClose={close} />}
      {open?.what === "barn" && <BarnForm onClose={close} />}
    </Box>
  );
}

type RowOf = { key: string; cells: ReactNode[]; edit?: () => void };

function Table(props: {
  title: string;
  head: string[];
  rows: RowOf[];
  add?: () => void;
  addLabel: string;
  none?: string;
}) {
  return (
    <Box component="section" sx={{ minWidth: 0 }}>
      <Box sx={{ display: "flex", alignItems: "center", mb: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {props.title}
        </Typography>
        {props.add && (
          <Button variant="contained" onClick={props.add}>
            {props.addLabel}
          </Button>
        )}
      </Box>
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label={props.title}>
        <Box
          component="table"
          sx={{
            width: "100%",
            minWidth: 640,
            borderCollapse: "collapse",
            borderTop: `2px solid ${ink}`,
            "& td, & th": { textAlign: "left", py: 0.25, pr: 2, borderBottom: `1px solid ${rule}` },
            "& th": { color: inkSoft, fontWeight: 600, fontSize: "0.92rem" },
          }}
        >
          <thead>
            <tr>
              {props.head.map((h) => (
                <th key={h} scope="col">
                  {h}
                </th>
              ))}
              {props.rows.some((r) => r.edit) && (
                <th scope="col">
                  <span style={{ position: "absolute", left: -9999 }}>Change</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {props.rows.map((row) => (
              <tr key={row.key}>
                {row.cells.map((cell, n) => (
                  <td key={props.head[n]} style={n === 0 ? { fontWeight: 700 } : undefined}>
                    {cell}
                  </td>
                ))}
                {row.edit && (
                  <td style={{ textAlign: "right" }}>
                    <Button size="small" onClick={row.edit} aria-label={`Change ${String(row.cells[0])}`}>
                      Change
                    </Button>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </Box>
        {props.rows.length === 0 && (
          <Typography sx={{ color: inkSoft, py: 1 }}>{props.none ?? "Nobody here."}</Typography>
        )}
      </Box>
    </Box>
  );
}
