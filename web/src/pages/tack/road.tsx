import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { Panel } from "../../parts/panel";
import { dayOfMonth } from "../../parts/words";
import { inkSoft, marigold, pine, rule } from "../../theme/tokens";

type Stage = Schemas["RoadStageOut"];
const edge: Record<Stage["state"], string> = { behind: pine, now: marigold, ahead: rule };
const said: Record<Stage["state"], string> = { behind: "behind it", now: "here", ahead: "" };

/** The road of a horse in stages, with where it is, and what comes next. */
export function Road(props: { tack: Schemas["HorseTackOut"] }) {
  const { tack } = props;
  return (
    <Panel by="road">
      <Typography variant="h2" id="road">
        {tack.road}
      </Typography>
      <Typography sx={{ fontSize: "1.25rem", fontWeight: 700, mt: 0.5 }}>{tack.next}</Typography>
      <Typography sx={{ mb: 1.5 }}>{tack.why}.</Typography>
      <Box
        component="ol"
        aria-label="Stages"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gap: 0.75,
          gridTemplateColumns: { xs: "1fr", md: `repeat(${tack.stages.length}, minmax(0, 1fr))` },
        }}
      >
        {tack.stages.map((stage) => (
          <Box
            component="li"
            key={stage.name}
            aria-current={stage.state === "now" ? "step" : undefined}
            sx={{ borderTop: `8px solid ${edge[stage.state]}`, pt: 0.75, minWidth: 0 }}
          >
            <Box sx={{ fontWeight: 700, lineHeight: 1.2 }}>{stage.name}</Box>
            <Box sx={{ color: inkSoft, fontSize: "0.95rem", lineHeight: 1.25 }}>
              {stage.from && stage.to
                ? `${dayOfMonth(stage.from)} to about ${dayOfMonth(stage.to)}`
                : said[stage.state] || stage.takes}
            </Box>
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
