import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { download } from "../../parts/download";

/** The set-up as a file: its markers, a drawing, or all of it. */
export function Files({ setUp }: { setUp: Schemas["SetUpOut"] }) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  const text = (path: "/api/set-ups/{id}/markers" | "/api/set-ups/{id}/drawing") =>
    ask(api.GET(path, { params: { path: { id: setUp.id } }, parseAs: "text" }));
  const give = async (kind: "csv" | "svg" | "json") => {
    setAt(null);
    const type = { csv: "text/csv", svg: "image/svg+xml", json: "application/json" }[kind];
    const body =
      kind === "json"
        ? JSON.stringify(setUp.set_up, null, 2)
        : await text(kind === "csv" ? "/api/set-ups/{id}/markers" : "/api/set-ups/{id}/drawing");
    download(new Blob([body], { type }), `${setUp.name}.${kind}`);
  };
  return (
    <>
      <Button variant="outlined" aria-haspopup="menu" onClick={(e) => setAt(e.currentTarget)}>
        As a file
      </Button>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)}>
        <MenuItem onClick={() => void give("csv")}>Markers, CSV</MenuItem>
        <MenuItem onClick={() => void give("svg")}>Drawing, SVG</MenuItem>
        <MenuItem onClick={() => void give("json")}>Set-up, JSON</MenuItem>
      </Menu>
    </>
  );
}
