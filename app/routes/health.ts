/** Whether this web server lives; what it needs is asked at `/ready`. */
export const loader = () => new Response('well', { headers: { 'Cache-Control': 'no-store' } });
