import { whyNotReady } from '#usecases/measures';

/** Whether requests may be led here; says no more than why not. */
export async function loader() {
  const why = await whyNotReady();
  return new Response(why ?? 'ready', { status: why ? 503 : 200, headers: { 'Cache-Control': 'no-store' } });
}
