import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, type Schemas } from "../../../api/client";
import { scoredRuns } from "../../../api/queries";
import { newId } from "../../../parts/ids";
import { Panel } from "../../../parts/panel";
import { FormTrouble } from "../../../parts/states";
import { day } from "../../../parts/words";
import { inkSoft, rule } from "../../../theme/tokens";

const TOLD = 5;

/** Runs of a horse that were scored, and one more over the figure that is open. */
export function ScoredRuns(props: {
  horse: { id: string; name: string };
  figure: { name: string; text: string; ground: string };
  manoeuvres: number;
}) {
  const { horse, figure } = props;
  const navigate = useNavigate();
  const [id, setId] = useState(newId);
  const all = useQuery(scoredRuns(horse.id)).data?.items ?? [];
  const begin = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/scored-runs/{id}", {
          params: { path: { id } },
          body: { horse_id: horse.id, ground_id: figure.ground, name: figure.name, text: figure.text },
        }),
      ),
    onSuccess: () => {
      setId(newId());
      void navigate(`/score/${id}`);
    },
  });
  return (
    <Panel by="scored-runs" tight>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "baseline", flexWrap: "wrap" }}>
        <Typography variant="h2" id="scored-runs">
          Scored runs
        </Typography>
        <Button
          className="no-print"
          variant="outlined"
          disabled={begin.isPending || props.manoeuvres === 0}
          onClick={() => begin.mutate()}
          sx={{ ml: "auto" }}
        >
          Score a run
        </Button>
      </Box>
      <FormTrouble error={begin.error} />
      {all.length === 0 && (
        <Typography sx={{ color: inkSoft }}>
          None of {horse.name} yet. A run begins at 70; each part adds or takes up to a point and a half.
        </Typography>
      )}
      {all.slice(0, TOLD).map((run) => (
        <Box
          key={run.id}
          component={Link}
          to={`/score/${run.id}`}
          sx={{
            display: "flex",
            gap: 1,
            py: 0.75,
            borderTop: `1px solid ${rule}`,
            color: "inherit",
            textDecoration: "none",
            "&:hover": { textDecoration: "underline" },
          }}
        >
          <Box sx={{ color: inkSoft, minWidth: 84 }}>{day(run.day)}</Box>
          <Box sx={{ flex: 1, minWidth: 0 }}>{run.name}</Box>
          <b>{runSays(run)}</b>
        </Box>
      ))}
    </Panel>
  );
}

/** `70½ and 71`, `70½, Dell is scoring`. */
function runSays(run: Schemas["ScoredRunOut"]): string {
  const totals = run.totals.map((it) => it.total).join(" and ");
  const open = run.open.length > 0 ? `${run.open.join(" and ")} scoring` : "";
  return [totals, open].filter(Boolean).join(", ") || "Score it";
}
