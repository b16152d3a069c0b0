import { reelFrames, scaledSize, whereNow, type NowAt, type Reel } from '#core/reel';
import { framesPerSecond } from '#core/time';
import { loadRevision, type OpenReel } from '#data/reels';
import {
  addComment,
  addViewingVersion,
  changeComment,
  changeViewing,
  listComments,
  listViewingVersions,
  openViewing,
  renderVersionAgain,
  viewingOfReel,
  type Viewing,
  type ViewingComment,
  type ViewingVersionRow,
} from '#data/viewings';
import type { NewRender } from '#data/tasks';
import { ViewingIntentDto, ViewingSettingsDto } from './forms/viewingDto';
import { openReelOf } from './openReel';
import { newRender } from './renders';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';
import { check } from './validate';
import { hashPassword, newToken } from './viewingKeys';

/** Lines of the shorter side of what is shown: sharp on a phone and on a laptop, and quick to load. */
const shownLines = 720;
const mostVersions = 200;

/** How far the file of a version is. */
export function fileState({ render, task }: ViewingVersionRow) {
  if (render?.storageKey) return { state: 'ready' as const, progress: 1, secondsLeft: null, sentence: null };
  if (!render) return { state: 'gone' as const, progress: 0, secondsLeft: null, sentence: null };
  const isUnderWay = task?.state === 'queued' || task?.state === 'running';
  return {
    state: isUnderWay ? ('making' as const) : ('failed' as const),
    progress: task?.progress ?? 0,
    secondsLeft: task?.secondsLeft ?? null,
    sentence: task?.sentence ?? null,
  };
}

/** Comments with their answers under them, in the order of their times. */
export function threadsOf<C extends Pick<ViewingComment, 'id' | 'answers' | 'seconds' | 'createdAt'>>(
  comments: readonly C[],
): (C & { replies: C[] })[] {
  return comments
    .filter(({ answers }) => answers === null)
    .map((comment) => ({ ...comment, replies: comments.filter(({ answers }) => answers === comment.id) }))
    .sort((a, b) => a.seconds - b.seconds || a.createdAt.getTime() - b.createdAt.getTime());
}

/** How a reel is shown to others, and what they said; null while nobody was shown it. */
export async function showViewing(projectId: string, reelId: string) {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const viewing = await viewingOfReel(reelId);
  return done({ viewing: viewing && (await viewingLine(opened.value, viewing)) });
}

async function viewingLine({ head, document }: OpenReel, viewing: Viewing) {
  const [rows, comments] = await Promise.all([listViewingVersions(viewing.id), listComments(viewing.id)]);
  const shown = await shownDocuments(viewing.reelId, rows, comments);
  const where = (comment: ViewingComment): NowAt => {
    const before = shown.get(comment.versionId) ?? document;
    return whereNow(before, document, Math.floor(comment.seconds * framesPerSecond(before.rate) + 1e-3));
  };
  const numbers = new Map(rows.map(({ version }) => [version.id, version.number]));
  return {
    path: `/viewing/${viewing.token}`,
    isOpen: viewing.closedAt === null,
    isOver: isOver(viewing),
    hasPassword: viewing.passwordHash !== null,
    endsAt: viewing.endsAt?.toISOString() ?? null,
    mayDownload: viewing.mayDownload,
    versions: rows.map((row) => ({
      id: row.version.id,
      number: row.version.number,
      revision: row.version.revision,
      note: row.version.note,
      at: row.version.createdAt.toISOString(),
      isAsNow: row.version.revision === head,
      approvals: row.version.approvals.map(({ name, at }) => ({ name, at })),
      ...fileState(row),
    })),
    comments: threadsOf(comments).map(({ replies, ...comment }) => ({
      ...commentLine(comment),
      version: numbers.get(comment.versionId) ?? 0,
      now: where(comment),
      isDone: comment.doneAt !== null,
      replies: replies.map(commentLine),
    })),
  };
}

const commentLine = ({ id, seconds, author, text, fromEditor, createdAt }: ViewingComment) => ({
  id,
  seconds,
  author,
  text,
  fromEditor,
  at: createdAt.toISOString(),
});

/** The states of the reel that comments are about, by version. */
async function shownDocuments(
  reelId: string,
  rows: readonly ViewingVersionRow[],
  comments: readonly ViewingComment[],
): Promise<Map<string, Reel>> {
  const wanted = new Set(comments.map(({ versionId }) => versionId));
  const documents = new Map<string, Reel>();
  for (const { version } of rows) {
    if (!wanted.has(version.id)) continue;
    const revision = await loadRevision(reelId, version.revision);
    if (revision) documents.set(version.id, revision.document);
  }
  return documents;
}

export type ViewingData = ValueOf<typeof showViewing>;
export type ViewingLine = NonNullable<ViewingData['viewing']>;
export type ViewedComment = ViewingLine['comments'][number];

/** Whether nothing is shown any more. */
export const isOver = ({ closedAt, endsAt }: Pick<Viewing, 'closedAt' | 'endsAt'>): boolean =>
  closedAt !== null || (endsAt !== null && endsAt.getTime() <= Date.now());

/** What an editor does with the viewing of a reel. */
export async function changeReelViewing(projectId: string, reelId: string, given: unknown): Promise<Result<null>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const checked = check(ViewingIntentDto, given);
  if (!checked.ok) return checked;
  const reel = opened.value;
  const { intent } = checked.value;
  if (intent === 'open') return open(reel, given, checked.value.text ?? '');
  const viewing = await viewingOfReel(reelId);
  if (!viewing) return missing('This reel is not shown to anybody yet.');
  switch (intent) {
    case 'settings':
      return changeSettings(viewing, given);
    case 'show':
      return showVersion(reel, viewing, checked.value.text ?? '');
    case 'again':
      return showAgain(reel, viewing, checked.value.id);
    case 'renew':
      await changeViewing(viewing.id, { token: newToken() });
      return nothingMore;
    case 'close':
      await changeViewing(viewing.id, { closedAt: new Date() });
      return nothingMore;
    default:
      return handleComment(viewing, { ...checked.value, intent });
  }
}

/** Opens the link, and shows the reel as it is now, unless that was shown last. */
async function open(reel: OpenReel, given: unknown, note: string): Promise<Result<null>> {
  const checked = check(ViewingSettingsDto, given);
  if (!checked.ok) return checked;
  if (reelFrames(reel.document) === 0) return refused('The reel is empty; there is nothing to show.');
  const { password, endsAt, mayDownload } = checked.value;
  const ended = endsBefore(endsAt);
  if (ended) return ended;
  const before = await viewingOfReel(reel.id);
  const viewing = await openViewing({
    projectId: reel.projectId,
    reelId: reel.id,
    token: newToken(),
    // What was closed comes back behind the password that it had.
    passwordHash: password === undefined ? (before?.passwordHash ?? null) : await hashOf(password),
    endsAt: endsAt ?? null,
    mayDownload,
  });
  const versions = await listViewingVersions(viewing.id);
  return versions.at(-1)?.version.revision === reel.head ? nothingMore : showVersion(reel, viewing, note);
}

/** An empty password is none. */
const hashOf = async (password: string): Promise<string | null> => (password ? hashPassword(password) : null);

const endsBefore = (endsAt: Date | undefined) =>
  endsAt && endsAt.getTime() <= Date.now()
    ? refused('The link would end before it begins. Choose a later day.', 'endsAt')
    : null;

async function changeSettings(viewing: Viewing, given: unknown): Promise<Result<null>> {
  const checked = check(ViewingSettingsDto, given);
  if (!checked.ok) return checked;
  const { password, endsAt, mayDownload } = checked.value;
  const ended = endsBefore(endsAt);
  if (ended) return ended;
  await changeViewing(viewing.id, {
    endsAt: endsAt ?? null,
    mayDownload,
    ...(password === undefined ? {} : { passwordHash: await hashOf(password), wrongGuesses: 0 }),
  });
  return nothingMore;
}

async function showVersion(reel: OpenReel, viewing: Viewing, note: string): Promise<Result<null>> {
  if (reelFrames(reel.document) === 0) return refused('The reel is empty; there is nothing to show.');
  const versions = await listViewingVersions(viewing.id);
  if (versions.length >= mostVersions) return refused(`At most ${mostVersions} versions of a reel can be shown.`);
  await addViewingVersion(viewing.id, { revision: reel.head, note }, (number) => fileOf(reel, number));
  return nothingMore;
}

/** The file by which a version is shown. */
const fileOf = (reel: Pick<OpenReel, 'id' | 'projectId' | 'head' | 'document'>, number: number): NewRender => {
  const { size, name } = reel.document;
  const lines = Math.min(shownLines, size.width, size.height);
  return newRender(reel, {
    name: `${name}, version ${number}`,
    range: null,
    ...scaledSize(size, lines),
    format: 'mp4',
    quality: 'good',
  });
};

/** Makes the file of a version anew that failed or was deleted. */
async function showAgain(reel: OpenReel, viewing: Viewing, versionId: string | undefined): Promise<Result<null>> {
  const row = (await listViewingVersions(viewing.id)).find(({ version }) => version.id === versionId);
  if (!row) return missing('This version is not there any more.');
  const { state } = fileState(row);
  if (state === 'ready' || state === 'making') return nothingMore;
  const revision = await loadRevision(reel.id, row.version.revision);
  if (!revision) return missing('This state of the reel is not there any more.');
  const { id, projectId } = reel;
  await renderVersionAgain(
    viewing.id,
    row.version.id,
    fileOf({ id, projectId, head: revision.number, document: revision.document }, row.version.number),
  );
  return nothingMore;
}

async function handleComment(
  viewing: Viewing,
  {
    intent,
    id,
    text,
    name,
  }: Omit<ViewingIntentDto, 'intent'> & { intent: 'answer' | 'tick' | 'untick' | 'remove' | 'restore' },
): Promise<Result<null>> {
  const gone = missing('This comment is not there any more.');
  if (!id) return gone;
  if (intent === 'answer') {
    const comment = (await listComments(viewing.id)).find((each) => each.id === id && each.answers === null);
    if (!comment) return gone;
    if (!text) return refused('Write an answer.', 'text');
    const { versionId, seconds } = comment;
    const [author, answers] = [name || 'Editor', id];
    await addComment({ viewingId: viewing.id, versionId, seconds, answers, author, text, fromEditor: true });
    return nothingMore;
  }
  const now = new Date();
  const values = {
    tick: { doneAt: now },
    untick: { doneAt: null },
    remove: { removedAt: now },
    restore: { removedAt: null },
  }[intent];
  return (await changeComment(viewing.id, id, values)) ? nothingMore : gone;
}
