import { databaseAnswers } from '#usecases/health';

export async function loader() {
  return (await databaseAnswers())
    ? new Response('well')
    : new Response('The database does not answer.', { status: 503 });
}
