export type { Chip, Request } from './types';
export { stem } from './vocabulary';
export { parseRequest } from './parse';
export { type AskContext, type Hit, answerRequest } from './answer';
export { lexiconOf } from './lexicon';
