import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useState, type ComponentType } from "react";
import { matchPath, Navigate, Route, Routes, useMatch } from "react-router";
import { whenSignedOut } from "./api/client";
import { me } from "./api/queries";
import { bringTheDay, keepFor, quiet } from "./offline/device";
import { openOutbox } from "./offline/outbox";
import { deviceOwner } from "./offline/owner";
import { Boundary } from "./parts/boundary";
import { Confirm } from "./parts/confirm";
import { onDemand } from "./parts/on-demand";
import { PageLoading, PageTrouble } from "./parts/states";
import { Shell } from "./parts/shell";
import { MeContext, SignedOutContext } from "./parts/me";
import { Today } from "./pages/today/today";

const Ride = onDemand(() => import("./pages/ride/ride").then((m) => m.Ride));
const Score = onDemand(() => import("./pages/score/score").then((m) => m.Score));
const Afterwards = onDemand(() => import("./pages/ride/afterwards").then((m) => m.Afterwards));
const Horse = onDemand(() => import("./pages/horse/horse").then((m) => m.Horse));
const Horses = onDemand(() => import("./pages/horse/horses").then((m) => m.Horses));
const Owned = onDemand(() => import("./pages/owned/owned").then((m) => m.Owned));
const Alarms = onDemand(() => import("./pages/alarms/alarms").then((m) => m.AlarmsPage));
const Book = onDemand(() => import("./pages/book/book").then((m) => m.Book));
const Week = onDemand(() => import("./pages/week/week").then((m) => m.Week));
const Appointments = onDemand(() => import("./pages/appointments/appointments").then((m) => m.Appointments));
const Balance = onDemand(() => import("./pages/balance/balance").then((m) => m.Balance));
const Tack = onDemand(() => import("./pages/tack/tack").then((m) => m.Tack));
const Patterns = onDemand(() => import("./pages/patterns/patterns").then((m) => m.Patterns));
const Cattle = onDemand(() => import("./pages/cattle/cattle").then((m) => m.Cattle));
const Shorthand = onDemand(() => import("./pages/shorthand/shorthand").then((m) => m.Shorthand));
const Barn = onDemand(() => import("./pages/barn/barn").then((m) => m.Barn));
const Account = onDemand(() => import("./pages/account/account").then((m) => m.Account));
const SecurityLog = onDemand(() => import("./pages/account/security-log").then((m) => m.SecurityLog));
const Join = onDemand(() => import("./pages/account/join").then((m) => m.Join));
const SignIn = onDemand(() => import("./pages/signin/signin").then((m) => m.SignIn));
const SignInAgain = onDemand(() => import("./pages/signin/again").then((m) => m.SignInAgain));

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

/** The script of the page at an address, or of the sign-in before it: on its way while the server is still asked who is there. */
export function fetchPageAt(pathname: string) {
  if (deviceOwner() === null) void SignIn.fetch().catch(() => undefined);
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
    // Week is at hand before it is asked for: fetched only then, its script alone takes part of what it may take to open. And a session
    // that runs out is found out at any moment.
    void quiet(client, true).then(() => {
      for (const soon of [Week, SignInAgain]) void soon.fetch().catch(() => undefined);
    });
  }, [signedIn, client]);

  if (who.isPending) return <PageLoading what="the barn" />;
  if (!signedIn)
    return (
      <Suspense fallback={<PageLoading what="the barn" />}>
        <SignIn unreachable={who.error && !("problem" in who.error) ? who.error.message : null} />
      </Suspense>
    );
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
      {/* Its own: where a dialog's script does not come, the ride under it goes on. */}
      <Boundary>
        <Confirm />
        {lost && (asked || !riding) && (
          <Suspense fallback={null}>
            <SignInAgain demo={signedIn.barn.is_demo} onDone={() => void back()} />
          </Suspense>
        )}
      </Boundary>
    </MeContext>
  );
}
