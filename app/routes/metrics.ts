import { writeMetrics } from '../server/metrics.server';

/** For Prometheus and alike; asks for the password where there is one. */
export async function loader() {
  const { text, type } = await writeMetrics();
  return new Response(text, { headers: { 'Content-Type': type, 'Cache-Control': 'no-store' } });
}
