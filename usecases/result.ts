/** Sentences for people, by the field of what was given that they are about. */
export type Problems = Record<string, string>;

/** Why something was not done: what was given does not fit; somebody else was quicker; it is not there (any more). */
export type WhyNot = 'refused' | 'conflict' | 'missing';

export interface Failure {
  ok: false;
  why: WhyNot;
  /** What happened and what can be done, for people. */
  sentence: string;
  problems: Problems;
}
/** With what stands there now. */
export interface Conflict<Now> extends Failure {
  why: 'conflict';
  now: Now;
}
export interface Done<T> {
  ok: true;
  value: T;
}

/** What came of a use case. Faults of the machine (a full disk, a lost connection) are thrown instead. */
export type Result<T> = Done<T> | Failure;

export const done = <T>(value: T): Done<T> => ({ ok: true, value });
export type Given<R> = R extends Done<infer T> ? T : never;
/** What a use case gives when it is done: the model of a screen, for those that show one. */
export type ValueOf<UseCase extends (...given: never[]) => unknown> = Given<Awaited<ReturnType<UseCase>>>;

/** Done, and there is nothing to say about it. */
export const nothingMore: Done<null> = done(null);

const failure = (why: WhyNot, sentence: string, field: string): Failure => ({
  ok: false,
  why,
  sentence,
  problems: { [field]: sentence },
});
/** @param field of what was given; 'form' for all of it */
export const refused = (sentence: string, field = 'form'): Failure => failure('refused', sentence, field);
export const missing = (sentence: string, field = 'form'): Failure => failure('missing', sentence, field);
export const conflict = <Now = null>(sentence: string, now: Now): Conflict<Now> => ({
  ...failure('conflict', sentence, 'form'),
  why: 'conflict',
  now,
});
