/**
 * Lets what was given up end quietly. The router reads the rest of an answer by itself; where the screen is left between
 * its first line and its end, a promise that nobody can reach breaks with the reason of the request.
 */
export function forgetGivenUp(page: EventTarget): void {
  page.addEventListener('unhandledrejection', (event) => {
    const reason: unknown = (event as PromiseRejectionEvent).reason;
    // A page has more than one kind of DOMException where frames or tests are about; the name is the same in all.
    if (reason instanceof Object && 'name' in reason && reason.name === 'AbortError') event.preventDefault();
  });
}
