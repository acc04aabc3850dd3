import Box from "@mui/material/Box";
import { ink, inkSoft, marigold, rule } from "../../theme/tokens";

const HEIGHT = 44;
const STEP = 16;

/** A bar a week, oldest on the left, this week's hollow; a line where something was agreed on. */
export function Bars(props: {
  values: number[];
  /** The height of the plot, in the values' unit. */
  most: number;
  /** Where a line is drawn. */
  line?: number;
  colour: (value: number, week: number) => string;
  /** What the plot says, in a sentence. */
  says: string;
}) {
  const { values, most } = props;
  const width = values.length * STEP;
  const up = (value: number) => (Math.min(value, most) / Math.max(1, most)) * HEIGHT;
  return (
    <svg
      width={width}
      height={HEIGHT + 2}
      viewBox={`0 0 ${width} ${HEIGHT + 2}`}
      role="img"
      aria-label={props.says}
    >
      <line x1={0} x2={width} y1={HEIGHT + 1} y2={HEIGHT + 1} stroke={rule} />
      {values.map((value, week) => {
        const open = week === values.length - 1;
        const fill = props.colour(value, week);
        const height = Math.max(value > 0 ? 2 : 0, up(value));
        return (
          <rect
            key={week}
            x={week * STEP + 2}
            y={HEIGHT + 1 - height}
            width={STEP - 4}
            height={height}
            fill={open ? "none" : fill}
            stroke={open ? fill : "none"}
            strokeWidth={1.5}
          />
        );
      })}
      {props.line !== undefined && props.line > 0 && (
        <line
          x1={0}
          x2={width}
          y1={HEIGHT + 1 - up(props.line)}
          y2={HEIGHT + 1 - up(props.line)}
          stroke={ink}
          strokeWidth={1.5}
          strokeDasharray="4 3"
        />
      )}
    </svg>
  );
}

/** A name with its bars and a figure. */
export function BarRow(props: {
  name: string;
  values: number[];
  most: number;
  colour?: string;
  figure: string;
}) {
  const { name, values, most, colour = marigold, figure } = props;
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(96px, 1fr) auto 84px",
        gap: 1.5,
        alignItems: "end",
        borderTop: `1px solid ${rule}`,
        py: 0.75,
      }}
    >
      <b>{name}</b>
      <Bars
        values={values}
        most={most}
        colour={() => colour}
        says={`${name}: ${values.join(", ")} rides, week by week`}
      />
      <Box component="span" sx={{ textAlign: "right", color: inkSoft }}>
        {figure}
      </Box>
    </Box>
  );
}
