import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { Navigate, Route, Routes, useMatch } from "react-router";
import { setToken, whenSignedOut } from "./api/client";
import { me } from "./api/queries";
import { bringTheDay, keepFor } from "./offline/device";
import { openOutbox } from "./outbox/outbox";
import { Boundary } from "./parts/boundary";
import { PageLoading, PageTrouble } from "./parts/states";
import { Shell } from "./parts/shell";
import { MeContext, SignedOutContext } from "./parts/me";
import { PasswordForm, SignIn } from "./pages/signin/signin";
import { Today } from "./pages/today/today";

const Ride = lazy(() => import("./pages/ride/ride").then((m) => ({ default: m.Ride })));
const Afterwards = lazy(() => import("./pages/ride/afterwards").then((m) => ({ default: m.Afterwards })));
const Horse = lazy(() => import("./pages/horse/horse").then((m) => ({ default: m.Horse })));
const Horses = lazy(() => import("./pages/horse/horses").then((m) => ({ default: m.Horses })));
const Owned = lazy(() => import("./pages/owned/owned").then((m) => ({ default: m.Owned })));
const Book = lazy(() => import("./pages/book/book").then((m) => ({ default: m.Book })));
const weekPage = () => import("./pages/week/week");
const Week = lazy(() => weekPage().then((m) => ({ default: m.Week })));
const Appointments = lazy(() =>
  import("./pages/appointments/appointments").then((m) => ({ default: m.Appointments })),
);
const Balance = lazy(() => import("./pages/balance/balance").then((m) => ({ default: m.Balance })));
const Shorthand = lazy(() => import("./pages/shorthand/shorthand").then((m) => ({ default: m.Shorthand })));
const Barn = lazy(() => import("./pages/barn/barn").then((m) => ({ default: m.Barn })));

/**
 * Signed out: the sign-in page. Signed in: the pages; and if the session runs out, a sign-in over the page as it stands. In a
 * ride it comes only when asked for: nothing stands in the way of the next rep.
 */
export function App() {
  const client = useQueryClient();
  const who = useQuery(me);
  const [lost, setLost] = useState(false);
  const [asked, setAsked] = useState(false);
  const riding = useMatch("/ride/:id") !== null;
  const signedIn = who.data;
  useEffect(() => whenSignedOut(() => setLost(true)), []);
  useEffect(() => {
    if (!signedIn) return;
    setToken(signedIn.csrf);
    openOutbox(signedIn.id);
    void keepFor(signedIn.id).then(() => bringTheDay(client).catch(() => undefined));
    // Week is at hand before it is asked for: fetched only then, its script alone takes part of what it may take to open.
    void weekPage().catch(() => undefined);
  }, [signedIn, client]);

  if (who.isPending) return <PageLoading what="the barn" />;
  if (!signedIn)
    return <SignIn unreachable={who.error && !("problem" in who.error) ? who.error.message : null} />;
  const back = async () => {
    const fresh = await client.fetchQuery({ ...me, staleTime: 0 });
    setToken(fresh.csrf);
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
              <Route element={<Shell />}>
                <Route index element={<Today />} />
                <Route path="/horses" element={<Horses />} />
                <Route path="/horses/owned" element={<Owned />} />
                <Route path="/horses/:id" element={<Horse />} />
                <Route path="/book" element={<Book />} />
                <Route path="/book/:rung" element={<Book />} />
                <Route path="/horses/:id/afterwards" element={<Afterwards />} />
                <Route path="/week" element={<Week />} />
                <Route path="/week/appointments" element={<Appointments />} />
                <Route path="/week/balance" element={<Balance />} />
                <Route path="/week/:day" element={<Week />} />
                <Route path="/shorthand" element={<Shorthand />} />
                <Route path="/barn" element={<Barn />} />
                <Route path="/today" element={<Navigate to="/" replace />} />
                <Route
                  path="*"
                  element={<PageTrouble title="Nothing here" detail="This address leads nowhere." />}
                />
              </Route>
            </Routes>
          </Suspense>
        </Boundary>
      </SignedOutContext>
      <Dialog open={lost && (asked || !riding)} aria-labelledby="lost-title" maxWidth="xs" fullWidth>
        <DialogContent>
          <PasswordForm
            title="Signed out meanwhile"
            lead="Sign in to go on. What you logged is still here and is sent afterwards."
            demo={signedIn.barn.is_demo}
            onDone={() => void back()}
          />
        </DialogContent>
      </Dialog>
    </MeContext>
  );
}
