import { sql } from 'drizzle-orm';
import type { Client } from 'pg';
import { database, ownConnection } from './db';

/** What every server is told of a project: its tasks are others now, or something in it was changed. */
export interface Notice {
  project: string;
  what: 'tasks' | 'changed';
  /** The window that changed it, as it calls itself. */
  by?: string;
}

/** The same in the triggers of the migrations. */
const channel = 'bright_reel';
const againMilliseconds = 1000;
/** A connection over which nothing comes may be cut without anybody having said so. */
const askMilliseconds = 15_000;

/** Tells everybody who hears notices, in this process and in others; it is heard once the database has it. */
export const tellNotice = (notice: Notice) =>
  database().execute(sql`select pg_notify(${channel}, ${JSON.stringify(notice)})`);

interface Hearer {
  notice(notice: Notice): void;
  /** Notices may have been missed: it hears again after it did not. */
  gap(): void;
}

/**
 * Hears what is told from now on, over a connection of its own that is made anew when it breaks (PostgreSQL, LISTEN).
 * @returns ends it
 */
export function hearNotices(hearer: Hearer): () => Promise<void> {
  let client: Client | null = null;
  let isOver = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const later = (act: () => void, milliseconds: number) => {
    clearTimeout(timer);
    if (!isOver) timer = setTimeout(act, milliseconds).unref();
  };
  const begin = async (isFirst: boolean) => {
    const own = ownConnection('bright-reel notices');
    const lost = () => {
      if (client !== own) return;
      client = null;
      own.end().catch(() => undefined);
      later(() => void begin(false), againMilliseconds);
    };
    client = own;
    own.on('error', lost).on('end', lost);
    own.on('notification', ({ payload }) => {
      const notice = read(payload);
      if (notice) hearer.notice(notice);
    });
    const ask = () =>
      void Promise.race([
        own.query('select 1'),
        new Promise((_, tell) => setTimeout(() => tell(new Error('no answer')), askMilliseconds).unref()),
      ]).then(() => later(ask, askMilliseconds), lost);
    try {
      await own.connect();
      await own.query(`listen ${channel}`);
      if (!isFirst) hearer.gap();
      later(ask, askMilliseconds);
    } catch {
      lost();
    }
  };
  void begin(true);
  return async () => {
    isOver = true;
    clearTimeout(timer);
    const last = client;
    client = null;
    await last?.end().catch(() => undefined);
  };
}

function read(payload: string | undefined): Notice | null {
  try {
    const given = JSON.parse(payload ?? '') as Partial<Notice>;
    const isNotice = typeof given.project === 'string' && (given.what === 'tasks' || given.what === 'changed');
    return isNotice ? (given as Notice) : null;
  } catch {
    return null;
  }
}
