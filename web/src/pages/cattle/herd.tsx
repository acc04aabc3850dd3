import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { herd } from "../../api/queries";
import { freshColour, freshName, healthName, mannerName } from "../../parts/cattle-words";
import { useMe } from "../../parts/me";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { many } from "../../parts/words";
import { bone, inkSoft, oxblood, paper, rule, slab } from "../../theme/tokens";
import { CowForm } from "./cow-form";
import { RulesForm } from "./rules-form";

type Cow = Schemas["CowOut"];

/** When it was last worked, in words. */
export function restOf(days: number | null | undefined): string {
  if (days === null || days === undefined) return "no work in 60 days";
  return days === 0 ? "today" : days === 1 ? "yesterday" : `${days} days ago`;
}

/** The herd: how fresh each cow is, what its limits leave, and what to look at first. */
export function Herd() {
  const me = useMe();
  const all = useQuery(herd);
  const [open, setOpen] = useState<Cow | "new" | null>(null);
  const [rules, setRules] = useState(false);
  if (all.error)
    return (
      <PageTrouble
        title="Couldn't load the herd"
        detail={all.error.message}
        again={() => void all.refetch()}
      />
    );
  if (!all.data) return <PageLoading what="the herd" />;
  const cows = all.data.items;
  const fit = cows.filter((cow) => cow.works_left > 0);
  const left = fit.reduce((n, cow) => n + cow.works_left, 0);
  const of = all.data.rules;
  return (
    <>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap", mb: 1.5 }}>
        <Typography sx={{ flex: 1, minWidth: 240 }}>
          <b>{many(cows.length, "head", "head")}</b>, {fit.length} to work today with {many(left, "work")}{" "}
          left.
        </Typography>
        <Button variant="contained" onClick={() => setOpen("new")}>
          Add a cow
        </Button>
        {me.role === "trainer" && (
          <Button variant="outlined" onClick={() => setRules(true)}>
            Limits
          </Button>
        )}
      </Box>
      {cows.length === 0 ? (
        <Empty>No cattle yet. Add each by its tag; how fresh it is comes from the works you log.</Empty>
      ) : (
        <Box
          component="ul"
          aria-label="The herd"
          sx={{ listStyle: "none", m: 0, p: 0, borderTop: `2px solid ${rule}` }}
        >
          {cows.map((cow) => (
            <Row key={cow.id} cow={cow} day={of.day} onOpen={() => setOpen(cow)} />
          ))}
        </Box>
      )}
      <Typography sx={{ color: inkSoft, mt: 2, fontSize: "0.95rem", maxWidth: 760 }}>
        {all.data.rules_version === 0 ? "Nobody has set the limits yet: " : ""}
        Half of the wear is taken to be gone after {many(of.rest_half_days, "day")} of rest, and half of the
        honour after {many(of.wear_half_minutes, "minute")} of work; {of.day} works a day and {of.week} a week
        at most. Handle quietly, water and shade before and after, and room to get out of the way. Eyes,
        lameness and heat are for the vet.
      </Typography>
      {open && <CowForm cow={open === "new" ? null : open} onClose={() => setOpen(null)} />}
      {rules && <RulesForm of={of} version={all.data.rules_version} onClose={() => setRules(false)} />}
    </>
  );
}

function Row({ cow, day, onOpen }: { cow: Cow; day: number; onOpen: () => void }) {
  const spared = cow.spared !== null && cow.spared !== undefined;
  return (
    <Box component="li" sx={{ borderBottom: `1px solid ${rule}`, background: spared ? bone : paper }}>
      <Box
        component="button"
        type="button"
        onClick={onOpen}
        sx={{
          font: "inherit",
          textAlign: "left",
          width: "100%",
          border: 0,
          background: "none",
          cursor: "pointer",
          minHeight: 52,
          px: 1.5,
          py: 0.5,
          display: "grid",
          alignItems: "center",
          columnGap: 2,
          gridTemplateColumns: { xs: "52px 1fr auto", md: "52px 200px 220px 120px 156px 1fr" },
        }}
      >
        <Box component="span" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.35rem" }}>
          {cow.tag}
        </Box>
        <Box component="span">
          {cow.looks}
          <Box component="span" sx={{ display: "block", color: inkSoft }}>
            {mannerName[cow.manner]}
            <Box component="span" sx={{ display: { md: "none" } }}>
              , {restOf(cow.rest_days)}
            </Box>
          </Box>
        </Box>
        <Fresh cow={cow} />
        <WorksLeft cow={cow} day={day} />
        <Box component="span" sx={{ display: { xs: "none", md: "inline" } }}>
          {restOf(cow.rest_days)}
        </Box>
        <Box
          component="span"
          sx={{
            gridColumn: { xs: "2 / 4", md: "auto" },
            color: spared ? oxblood : inkSoft,
            fontWeight: spared ? 650 : 400,
          }}
        >
          {cow.spared ?? (cow.health === "well" ? cow.note : healthName[cow.health])}
        </Box>
      </Box>
    </Box>
  );
}

/** How many of ten turns it honours now, out of those that it does rested. */
function Fresh({ cow }: { cow: Cow }) {
  const colour = freshColour[cow.freshness];
  return (
    <Box component="span" sx={{ gridColumn: { xs: "2 / 4", md: "auto" }, gridRow: { xs: 2, md: "auto" } }}>
      <Box component="span" sx={{ display: "flex", justifyContent: "space-between" }}>
        <b>{freshName[cow.freshness]}</b>
        <span>honours {(cow.honour / 100).toFixed(1)} of 10</span>
      </Box>
      <Box
        component="span"
        aria-hidden="true"
        sx={{ display: "block", height: 9, background: rule, position: "relative" }}
      >
        <Box
          component="span"
          sx={{
            position: "absolute",
            inset: 0,
            right: "auto",
            width: `${cow.rested / 10}%`,
            background: bone,
            borderRight: `2px solid ${inkSoft}`,
          }}
        />
        <Box
          component="span"
          sx={{
            position: "absolute",
            inset: 0,
            right: "auto",
            width: `${cow.honour / 10}%`,
            background: colour,
          }}
        />
      </Box>
    </Box>
  );
}

function WorksLeft({ cow, day }: { cow: Cow; day: number }) {
  const had = Math.min(day, cow.works_today);
  return (
    <Box component="span" sx={{ gridColumn: { xs: 3, md: "auto" }, gridRow: { xs: 1, md: "auto" } }}>
      <svg width={day * 18} height={16} aria-hidden="true" style={{ verticalAlign: "middle" }}>
        {Array.from({ length: day }, (_, n) => (
          <circle
            key={n}
            cx={8 + 18 * n}
            cy={8}
            r={6}
            fill={n < had ? inkSoft : "none"}
            stroke={n >= had + cow.works_left ? rule : inkSoft}
            strokeWidth={2}
          />
        ))}
      </svg>{" "}
      {cow.works_left} left
    </Box>
  );
}
