import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { horses } from "../../api/queries";
import { useMe } from "../../parts/me";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { ink, inkSoft, paper, rule } from "../../theme/tokens";

/** Every horse in work, by name. */
export function Horses() {
  const me = useMe();
  const { data, error, refetch } = useQuery(horses());
  if (error && !data)
    return (
      <PageTrouble title="Couldn't load the horses" detail={error.message} again={() => void refetch()} />
    );
  if (!data) return <PageLoading what="the horses" />;
  return (
    <>
      <Typography variant="h1" sx={{ mb: 2 }}>
        Horses in work
      </Typography>
      <Box sx={{ display: "flex", gap: 1, mb: 2 }}>
        <Button component={Link} to="/horses/owned" variant="outlined">
          Who owns what
        </Button>
        {me.role === "trainer" && (
          <Button component={Link} to="/horses/alarms" variant="outlined">
            Alarms
          </Button>
        )}
      </Box>
      {data.items.length === 0 && (
        <Empty>No horse is here yet. A trainer adds horses on the Barn page.</Empty>
      )}
      <Box
        component="ul"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gap: 1.5,
          gridTemplateColumns: "repeat(auto-fill, minmax(220px, 1fr))",
        }}
      >
        {data.items.map((h) => (
          <Box component="li" key={h.id}>
            <Box
              component={Link}
              to={`/horses/${h.id}`}
              sx={{
                display: "block",
                p: 1.75,
                background: paper,
                border: `1.5px solid ${rule}`,
                color: ink,
                textDecoration: "none",
                minHeight: 76,
                "&:hover": { borderColor: ink },
              }}
            >
              <Typography variant="h3" component="span" sx={{ display: "block" }}>
                {h.name}
              </Typography>
              <Box component="span" sx={{ color: inkSoft }}>
                {[h.foaled && `foaled ${h.foaled}`, h.sex].filter(Boolean).join(", ") || "no age noted"}
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
    </>
  );
}
