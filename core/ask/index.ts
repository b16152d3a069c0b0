export type { Chip, Joined, Name, Node, Request } from './types';
export { stem } from './vocabulary';
export { parseRequest } from './parse';
export type { AskContext } from './degrees';
export { type Hit, answerRequest } from './answer';
export { lexiconOf } from './lexicon';
export { loadThesaurus, noThesaurus } from './thesaurus';
export { type JointChange, changeJoint, writeRequest } from './brackets';
