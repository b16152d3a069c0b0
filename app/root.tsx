import '@fontsource-variable/figtree';
import '@fontsource-variable/spline-sans-mono';
import '@fontsource/figtree/800.css';
import '@fontsource/archivo-black/400.css';
import '@fontsource/bricolage-grotesque/800.css';
import '@fontsource/fraunces/900.css';
import '@fontsource/spline-sans-mono/700.css';
import './app.css';
import { use, useEffect } from 'react';
import { Tooltip } from 'radix-ui';
import { isRouteErrorResponse, Link, Links, Meta, Outlet, Scripts, ScrollRestoration, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import type { Route } from './+types/root';
import { whileWaited } from './server/caller.server';
import { guard } from './server/guard.server';
import { hearOut } from './server/answer.server';
import { protect } from './server/headers.server';
import { logged } from './server/log.server';
import { renewSession } from './server/session.server';
import { noteChange } from './server/touched.server';
import { sayUnavailable } from './server/unavailable.server';
import { doEarlyPresses, keepEarlyPresses } from './ui/earlyPresses';
import { forgetGivenUp } from './ui/givenUp';
import { useNoStrayFiles } from './hands/useFilesLanding';
import { NonceContext } from './ui/nonce';
import { earlyShade, useShade } from './ui/shade';
import { patientFetch } from './ui/patientFetch';
import { namedFetch } from './ui/windowName';

if (typeof window !== 'undefined') {
  const { origin } = window.location;
  window.fetch = patientFetch(namedFetch(window.fetch.bind(window), origin), origin);
  forgetGivenUp(window);
}

export const middleware: Route.MiddlewareFunction[] = [
  ({ request }, next) =>
    logged(request, async () => {
      const turnedAway = await guard(request);
      if (turnedAway) {
        await hearOut(request);
        return protect(turnedAway);
      }
      const own = await whileWaited(request, async () => next());
      const answer = await noteChange(request, await sayUnavailable(request, own));
      return protect(await renewSession(request, answer));
    }),
];
export const meta = () => [{ title: 'Bright Reel' }];

export function Layout({ children }: { children: React.ReactNode }) {
  const nonce = use(NonceContext);
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link
          rel="icon"
          href="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 16 16'%3E%3Crect width='16' height='16' rx='4' fill='%230f1418'/%3E%3Cpath d='M2 11h12' stroke='%23ffc95c' stroke-width='2'/%3E%3Cpath d='M2 9l4-5 3 3 2-2 3 4z' fill='%239fabb2'/%3E%3C/svg%3E"
        />
        <script
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: `${earlyShade};(${keepEarlyPresses.toString()})()` }}
        />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration />
        <Scripts />
      </body>
    </html>
  );
}

export default function Root() {
  useEffect(doEarlyPresses, []);
  useNoStrayFiles();
  return (
    <Tooltip.Provider delayDuration={400}>
      <Outlet />
      <Toaster
        theme={useShade()}
        position="bottom-left"
        // Over the buttons of a player, not on them.
        offset={{ bottom: 52, left: 16 }}
        toastOptions={{
          style: {
            background: 'var(--color-raised)',
            border: '1px solid var(--color-line)',
            color: 'var(--color-text)',
            fontFamily: 'var(--font-sans)',
          },
        }}
      />
    </Tooltip.Provider>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const { pathname, search } = useLocation();
  const known = isRouteErrorResponse(error);
  const title = known && error.status === 404 ? 'There is nothing here' : 'This did not work';
  const sentence =
    known && typeof error.data === 'string' && error.data
      ? error.data
      : 'The server did not answer as it should. Nothing you saved is lost; reload the page in a moment.';
  return (
    <main className="flex min-h-screen flex-col items-center justify-center gap-3 p-8 text-center">
      <h1 className="text-lg font-semibold">{title}</h1>
      <p className="max-w-md text-base text-muted">{sentence}</p>
      <div className="flex gap-4">
        <Link reloadDocument className="text-lampline underline" to={pathname + search}>
          Reload
        </Link>
        <Link className="text-muted underline" to="/">
          All projects
        </Link>
      </div>
    </main>
  );
}
