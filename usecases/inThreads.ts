import { AsyncLocalStorage } from 'node:async_hooks';
import { plainOf } from './validate';
import type { Heavy } from './threads/heavy';
import { Threads } from './threads/threads';

const threads = new Threads();
const callers = new AsyncLocalStorage<AbortSignal>();

/** Does something for a caller who only asks: what has not begun when it has gone is never begun. */
export const forCaller = <T>(gone: AbortSignal, ask: () => T): T => callers.run(gone, ask);

/** A use case of `threads/heavy.ts`, answered in a thread; forms are made plain on the way. */
const inThread = <Name extends keyof Heavy>(name: Name): Heavy[Name] =>
  // What comes back has been through a structured clone, which keeps whatever a result consists of.
  ((...given: unknown[]) =>
    threads.call(
      name,
      given.map((each) => (each instanceof FormData ? plainOf(each) : each)),
      callers.getStore(),
    )) as Heavy[Name];

export const begin = inThread('begin');
export const changeProjects = inThread('changeProjects');
export const changeTables = inThread('changeTables');
export const changeTerms = inThread('changeTerms');
export const changeWords = inThread('changeWords');
export const editWords = inThread('editWords');
export const exportReel = inThread('exportReel');
export const importReel = inThread('importReel');
export const findMorePieces = inThread('findMorePieces');
export const findShortsAsWished = inThread('findShortsAsWished');
export const framePiece = inThread('framePiece');
export const framePieces = inThread('framePieces');
export const makeVariants = inThread('makeVariants');
export const setPerson = inThread('setPerson');
export const showFindable = inThread('showFindable');
export const showPeople = inThread('showPeople');
export const showReadings = inThread('showReadings');
export const showReport = inThread('showReport');
export const showSpoken = inThread('showSpoken');
export const showTerms = inThread('showTerms');
export const takeUpload = inThread('takeUpload');
export const unpackProject = inThread('unpackProject');

/** Opens a thread before anybody waits for one. */
export const warmThreads = (): void => threads.warm();
