import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useState, type ComponentType } from "react";
import { matchPath, Navigate, Route, Routes, useMatch } from "react-router";
import { whenSignedOut } from "./api/client";
import { me } from "./api/queries";
import { bringTheDay, keepFor } from "./offline/device";
import { openOutbox } from "./offline/outbox";
import { Boundary } from "./parts/boundary";
import { page } from "./parts/page";
import { PageLoading, PageTrouble } from "./parts/states";
import { Shell } from "./parts/shell";
import { MeContext, SignedOutContext } from "./parts/me";
import { PasswordForm, SignIn } from "./pages/signin/signin";
import { Today } from "./pages/today/today";

const Ride = page(() => import("./pages/ride/ride").then((m) => m.Ride));
const Score = page(() => import("./pages/score/score").then((m) => m.Score));
const Afterwards = page(() => import("./pages/ride/afterwards").then((m) => m.Afterwards));
const Horse = page(() => import("./pages/horse/horse").then((m) => m.Horse));
const Horses = page(() => import("./pages/horse/horses").then((m) => m.Horses));
const Owned = page(() => import("./pages/owned/owned").then((m) => m.Owned));
const Alarms = page(() => import("./pages/alarms/alarms").then((m) => m.AlarmsPage));
const Book = page(() => import("./pages/book/book").then((m) => m.Book));
const Week = page(() => import("./pages/week/week").then((m) => m.Week));
const Appointments = page(() => import("./pages/appointments/appointments").then((m) => m.Appointments));
const Balance = page(() => import("./pages/balance/balance").then((m) => m.Balance));
const Tack = page(() => import("./pages/tack/tack").then((m) => m.Tack));
const Patterns = page(() => import("./pages/patterns/patterns").then((m) => m.Patterns));
const Cattle = page(() => import("./pages/cattle/cattle").then((m) => m.Cattle));
const Shorthand = page(() => import("./pages/shorthand/shorthand").then((m) => m.Shorthand));
const Barn = page(() => import("./pages/barn/barn").then((m) => m.Barn));
const Account = page(() => import("./pages/account/account").then((m) => m.Account));
const SecurityLog = page(() => import("./pages/account/security-log").then((m) => m.SecurityLog));
const Join = page(() => import("./pages/account/join").then((m) => m.Join));
const Confirm = page(() => import("./parts/confirm").then((m) => m.Confirm));

type Page = ComponentType & { fetch?: () => Promise<unknown> };
const inTheShell: { path: string; Page: Page }[] = [
  { path: "/", Page: Today },
  { path: "/horses", Page: Horses },
  { path: "/horses/owned", Page: Owned },
  { path: "/horses/alarms", Page: Alarms },
  { path: "/horses/:id", Page: Horse },
  { path: "/horses/:id/afterwards", Page: Afterwards },
  { path: "/book", Page: Book },
  { path: "/book/:rung", Page: Book },
  { path: "/week", Page: Week },
  { path: "/week/appointments", Page: Appointments },
  { path: "/week/balance", Page: Balance },
  { path: "/week/:day", Page: Week },
  { path: "/patterns", Page: Patterns },
  { path: "/cattle", Page: Cattle },
  { path: "/tack", Page: Tack },
  { path: "/shorthand", Page: Shorthand },
  { path: "/barn", Page: Barn },
  { path: "/barn/account", Page: Account },
  { path: "/barn/security", Page: SecurityLog },
];

/** The script of the page at an address: on its way while the server is still asked who is there. */
export function fetchPageAt(pathname: string) {
  const all = [{ path: "/ride/:id", Page: Ride }, { path: "/score/:id", Page: Score }, ...inTheShell];
  // Where it does not come, the page itself says so.
  all
    .find(({ path }) => matchPath(path, pathname))
    ?.Page.fetch?.()
    .catch(() => undefined);
}

/**
 * Signed out: the sign-in page. Signed in: the pages; and if the session runs out, a sign-in over the page as it stands. In a
 * ride it comes only when asked for: nothing stands in the way of the next rep.
 */
export function App() {
  // Whoever comes by a link sets a password first, whoever is signed in here.
  return useMatch("/join") ? (
    <Suspense fallback={<PageLoading what="the link" />}>
      <Join />
    </Suspense>
  ) : (
    <Signed />
  );
}

function Signed() {
  const client = useQueryClient();
  const who = useQuery(me);
  const [lost, setLost] = useState(false);
  const [asked, setAsked] = useState(false);
  const riding = [useMatch("/ride/:id"), useMatch("/score/:id")].some((at) => at !== null);
  const signedIn = who.data;
  useEffect(() => whenSignedOut(() => setLost(true)), []);
  useEffect(() => {
    if (!signedIn) return;
    openOutbox(signedIn.id);
    void keepFor(signedIn.id).then(() => bringTheDay(client).catch(() => undefined));
    // Week is at hand before it is asked for: fetched only then, its script alone takes part of what it may take to open.
    void Week.fetch().catch(() => undefined);
  }, [signedIn, client]);

  if (who.isPending) return <PageLoading what="the barn" />;
  if (!signedIn)
    return <SignIn unreachable={who.error && !("problem" in who.error) ? who.error.message : null} />;
  const back = async () => {
    const fresh = await client.fetchQuery({ ...me, staleTime: 0 });
    openOutbox(fresh.id);
    setLost(false);
    setAsked(false);
    void client.invalidateQueries();
  };
  return (
    <MeContext value={signedIn}>
      <SignedOutContext value={lost ? () => setAsked(true) : null}>
        <Boundary>
          <Suspense fallback={<PageLoading what="the page" />}>
            <Routes>
              <Route path="/ride/:id" element={<Ride />} />
              <Route path="/score/:id" element={<Score />} />
              <Route element={<Shell />}>
                {inTheShell.map(({ path, Page }) => (
                  <Route key={path} path={path} element={<Page />} />
                ))}
                <Route path="/today" element={<Navigate to="/" replace />} />
                <Route
                  path="*"
                  element={<PageTrouble title="Nothing here" detail="There is no page at this address." />}
                />
              </Route>
            </Routes>
          </Suspense>
        </Boundary>
      </SignedOutContext>
      <Suspense fallback={null}>
        <Confirm />
      </Suspense>
      <Dialog open={lost && (asked || !riding)} aria-labelledby="lost-title" maxWidth="xs" fullWidth>
        <DialogContent>
          <PasswordForm
            title="Signed out meanwhile"
            lead="Sign in to continue. What you logged is kept and will be sent."
            demo={signedIn.barn.is_demo}
            onDone={() => void back()}
          />
        </DialogContent>
      </Dialog>
    </MeContext>
  );
}
