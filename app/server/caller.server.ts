import { forCaller } from '#usecases/inThreads';
import { changesNothing } from './guard.server';

/** Answers while somebody waits for it. What somebody wanted changed is changed, also when the page that sent it has gone. */
export const whileWaited = (request: Request, answer: () => Promise<Response>): Promise<Response> =>
  changesNothing(request) ? forCaller(request.signal, answer) : answer();
