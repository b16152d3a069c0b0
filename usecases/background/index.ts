import { database } from '#data/db';
import { lanes, takeUpLost, type Lane, type Task } from '#data/tasks';
import { nearestTask } from './nearestTask';
import { alignText } from './alignText';
import { chainFiles } from './chainFiles';
import { fetchMedia } from './fetchMedia';
import { frameShorts } from './frameShorts';
import { glanceFile } from './glanceFile';
import { hearBeats } from './hearBeats';
import { hearWords } from './hearWords';
import { joinRecording } from './joinRecording';
import { makeMusic } from './makeMusic';
import { matchSound } from './matchSound';
import { postFile } from './postFile';
import { readFile } from './readFile';
import { helpWithRender, renderFile } from './renderFile';
import { runsNow, runTask, type TaskOutcome, type Work } from './runTask';
import { sweepParts } from './sweepParts';
import { syncBin } from './syncBin';
import { tellVoices } from './tellVoices';

export { concurrencyOf } from './workerKinds';

export { collectGarbage } from '../room';
export { HereWatcher } from './watchHere';
export { forgetWorker, sayWorker } from '#data/workers';
export { helpJob } from '#data/renderStretches';
export { helpWithRender, nearestTask };
export { lanes, runsNow, runTask, sweepParts, takeUpLost, type Lane, type Task };

/** What each kind of task does. A sentence that is returned stays with the task when it is done. */
export const works: Record<Task['kind'], (work: Work) => Promise<TaskOutcome>> = {
  glance: glanceFile,
  chain: chainFiles,
  read: readFile,
  words: hearWords,
  align: alignText,
  voices: tellVoices,
  sync: syncBin,
  match: matchSound,
  hear: hearBeats,
  frame: frameShorts,
  post: postFile,
  fetch: fetchMedia,
  join: joinRecording,
  music: makeMusic,
  render: renderFile,
};

/** The connections that a worker takes its jobs by. */
export const queueConnections = () => database().$client;
