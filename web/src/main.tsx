import "./api/early";
import "@fontsource-variable/bitter/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Unreachable } from "./api/client";
import { me, today } from "./api/queries";
import { App, fetchPageAt } from "./app";
import { letHelperIn } from "./offline/device";
import { deviceOwner } from "./offline/owner";
import { theme } from "./theme/theme";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // With no network, too, the device's helper is asked: it may have kept the response.
      networkMode: "offlineFirst",
      retry: (count, error) => error instanceof Unreachable && count < 2,
      refetchOnWindowFocus: true,
    },
  },
});

letHelperIn();
fetchPageAt(location.pathname);
// Before anything is drawn, and Today while the server is still asked who is there.
void queries.prefetchQuery(me);
if (deviceOwner() !== null) void queries.prefetchQuery(today);

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <ThemeProvider theme={theme}>
          <CssBaseline />
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </ThemeProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
