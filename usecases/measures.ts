import { freeBytes, isFull, reserveBytes } from '#data/room';
import { databaseAnswers } from '#data/db';
import { countTasks } from '#data/taskCounts';

/** What whoever runs an installation watches: the queue, and the room on the disk of this machine. */
export async function measureWork() {
  return { tasks: await countTasks(), freeBytes: await freeBytes(), reserveBytes: reserveBytes() };
}

/** Whether requests can be answered: the database is there, and what is written is kept. Why not otherwise. */
export async function whyNotReady(): Promise<string | null> {
  if (!(await databaseAnswers())) return 'The database does not answer.';
  return (await isFull()) ? 'The disk is full.' : null;
}
