import { databaseAnswers, isFull } from '#usecases/health';

/** A page can say what is wrong; the data of a screen that is shown already had better be asked for again. */
const isPage = (request: Request): boolean => (request.headers.get('accept') ?? '').includes('text/html');

/**
 * A fault while the database is away is no fault of the request: the answer becomes 503, and screens keep what they
 * show and ask again.
 */
export async function sayUnavailable(request: Request, answer: Response): Promise<Response> {
  if (answer.status !== 500) return answer;
  if (await isFull().catch(() => false)) {
    await answer.body?.cancel().catch(() => undefined);
    return new Response('The disk is full. What you change is kept here and sent when there is room.', {
      status: 507,
      headers: { 'Retry-After': '5', 'Content-Type': 'text/plain; charset=utf-8' },
    });
  }
  if (isPage(request) || (await databaseAnswers())) return answer;
  await answer.body?.cancel().catch(() => undefined);
  return new Response('The database does not answer. Nothing that was saved is lost.', {
    status: 503,
    headers: { 'Retry-After': '2' },
  });
}
