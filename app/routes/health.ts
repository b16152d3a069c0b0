import { sql } from 'drizzle-orm';
import { database } from '#data/db';

export async function loader() {
  try {
    await database().execute(sql`select 1`);
    return new Response('well');
  } catch {
    return new Response('The database does not answer.', { status: 503 });
  }
}
