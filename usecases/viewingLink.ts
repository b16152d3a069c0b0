import { compareReels } from '#core/reel';
import { loadRevision } from '#data/reels';
import {
  addComment,
  changeApprovals,
  changeComment,
  changeViewing,
  countComments,
  listComments,
  listViewingVersions,
  noteWrongGuess,
  viewingByToken,
  type Viewing,
  type ViewingVersionRow,
} from '#data/viewings';
import { findProject, isId } from '#data/projects';
import { ApprovalDto, CommentDto } from './forms/viewingDto';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';
import { check } from './validate';
import { isPassword, keptOf, passOf } from './viewingKeys';
import { fileState, isOver, threadsOf } from './viewings';

/** What a visitor's browser holds: that the password was given, and by what its own words are known again. */
export interface Visitor {
  pass: string | null;
  secret: string | null;
}

/** Wrong passwords in a row after which one has to wait, and how long. Common practice, no source. */
const mostGuesses = 10;
const waitMinutes = 10;
/** Comments of one link: in a minute, and in all. */
const mostInAMinute = 30;
const mostComments = 5000;

const over = missing('This link does not lead anywhere any more. Ask whoever sent it for a new one.');
const locked = refused('The password is needed.', 'password');

type Shown = Viewing & { name: string };

/** A viewing that is open for somebody; whether a password is still wanted is said beside it. */
async function find(token: string): Promise<Result<Shown>> {
  const viewing = await viewingByToken(token);
  if (!viewing || isOver(viewing)) return over;
  const project = await findProject(viewing.projectId);
  return project && !project.removedAt ? done(viewing) : over;
}
const mayEnter = (viewing: Viewing, { pass }: Visitor): boolean =>
  viewing.passwordHash === null || pass === passOf(viewing);

async function enter(token: string, visitor: Visitor): Promise<Result<Shown>> {
  const found = await find(token);
  return found.ok && !mayEnter(found.value, visitor) ? locked : found;
}

/** Most lines that are said of what is otherwise in another version. */
const mostDifferences = 100;

/**
 * What is shown under a link.
 * @param compared numbers of two versions of which is said what changed from the earlier to the later one
 */
export async function showLink(token: string, visitor: Visitor, compared: readonly (string | null)[] = []) {
  const found = await find(token);
  if (!found.ok) return found;
  const viewing = found.value;
  if (!mayEnter(viewing, visitor)) return done({ isLocked: true as const });
  const [rows, comments] = await Promise.all([listViewingVersions(viewing.id), listComments(viewing.id)]);
  const own = visitor.secret === null ? null : keptOf(visitor.secret);
  const line = ({
    id,
    seconds,
    author,
    text,
    fromEditor,
    createdAt,
    key,
    doneAt,
    versionId,
  }: (typeof comments)[number]) => ({
    id,
    version: versionId,
    seconds,
    author,
    text,
    fromEditor,
    at: createdAt.toISOString(),
    isDone: doneAt !== null,
    isOwn: key !== null && key === own,
  });
  return done({
    isLocked: false as const,
    name: viewing.name,
    endsAt: viewing.endsAt?.toISOString() ?? null,
    mayDownload: viewing.mayDownload,
    versions: rows.map((row) => ({
      id: row.version.id,
      number: row.version.number,
      note: row.version.note,
      at: row.version.createdAt.toISOString(),
      length: row.render?.seconds ?? null,
      size: row.render && { width: row.render.width, height: row.render.height },
      file: row.render?.id ?? null,
      approvals: row.version.approvals.map(({ name, at, key }) => ({ name, at, isOwn: key === own })),
      ...fileState(row),
      sentence: null,
    })),
    differences: await differencesOf(viewing.reelId, rows, compared),
    comments: threadsOf(comments).map(({ replies, ...comment }) => ({ ...line(comment), replies: replies.map(line) })),
  });
}
export type LinkData = Extract<ValueOf<typeof showLink>, { isLocked: false }>;
export type LinkVersion = LinkData['versions'][number];
export type LinkComment = LinkData['comments'][number];

async function differencesOf(
  reelId: string,
  rows: readonly ViewingVersionRow[],
  compared: readonly (string | null)[],
): Promise<string[] | null> {
  const wanted = rows.filter(({ version }) => compared.includes(String(version.number)));
  if (wanted.length !== 2) return null;
  const [before, after] = await Promise.all(wanted.map(({ version }) => loadRevision(reelId, version.revision)));
  if (!before || !after) return null;
  return compareReels(before.document, after.document)
    .slice(0, mostDifferences)
    .map(({ says }) => says);
}

/** @returns what the browser holds from then on */
export async function givePassword(token: string, password: unknown): Promise<Result<string>> {
  const found = await find(token);
  if (!found.ok) return found;
  const viewing = found.value;
  if (viewing.passwordHash === null) return done(passOf(viewing));
  const waitsUntil = (viewing.guessedAt?.getTime() ?? 0) + waitMinutes * 60_000;
  if (viewing.wrongGuesses >= mostGuesses && waitsUntil > Date.now())
    return refused(
      `The password was wrong ${viewing.wrongGuesses} times. Try again in ${Math.ceil((waitsUntil - Date.now()) / 60_000)} min.`,
      'password',
    );
  if (typeof password !== 'string' || !(await isPassword(password.slice(0, 200), viewing.passwordHash))) {
    await noteWrongGuess(viewing.id);
    return refused('This is not the password.', 'password');
  }
  if (viewing.wrongGuesses > 0) await changeViewing(viewing.id, { wrongGuesses: 0 });
  return done(passOf(viewing));
}

/** Where the file of a version lies in the store, and what it is called when it is taken away. */
export async function findShownFile(
  token: string,
  visitor: Visitor,
  versionId: string,
): Promise<Result<{ key: string; name: string; mayDownload: boolean }>> {
  const entered = await enter(token, visitor);
  if (!entered.ok) return entered;
  const rows = isId(versionId) ? await listViewingVersions(entered.value.id) : [];
  const row = rows.find(({ version }) => version.id === versionId);
  if (!row?.render?.storageKey) return missing('This version is not ready to be seen.');
  const { storageKey, name, format } = row.render;
  return done({ key: storageKey, name: `${name}.${format}`, mayDownload: entered.value.mayDownload });
}

/** Says something at a time of a version, or answers what was said. */
export async function comment(
  token: string,
  visitor: Visitor & { secret: string },
  given: unknown,
): Promise<Result<null>> {
  const entered = await enter(token, visitor);
  if (!entered.ok) return entered;
  const checked = check(CommentDto, given);
  if (!checked.ok) return checked;
  const { id } = entered.value;
  const { id: commentId, version, seconds, name, text, answers } = checked.value;
  const place = await placeOf(id, version, answers);
  if (!place.ok) return place;
  const { all, lately } = await countComments(id);
  if (lately >= mostInAMinute) return refused('That was a lot in one minute. Wait a little, and send it again.');
  if (all >= mostComments) return refused(`There are ${mostComments} comments here already; no more can be kept.`);
  const at = { seconds, ...place.value };
  const key = keptOf(visitor.secret);
  await addComment({ ...(commentId ? { id: commentId } : {}), viewingId: id, author: name, text, key, ...at });
  return nothingMore;
}

/** What a comment is about: a version at a time that its writer says, or what it answers, with that one's time. */
async function placeOf(
  viewingId: string,
  versionId: string,
  answers: string | undefined,
): Promise<Result<{ versionId: string; answers?: string; seconds?: number }>> {
  if (answers) {
    const asked = (await listComments(viewingId)).find((each) => each.id === answers && each.answers === null);
    return asked
      ? done({ versionId: asked.versionId, answers, seconds: asked.seconds })
      : missing('This comment is not there any more.');
  }
  const rows = await listViewingVersions(viewingId);
  return rows.some(({ version }) => version.id === versionId)
    ? done({ versionId })
    : missing('This version is not there any more.');
}

/** Takes back what somebody said, or brings it back; only their own. */
export async function takeBack(
  token: string,
  visitor: Visitor,
  commentId: unknown,
  isBack: boolean,
): Promise<Result<null>> {
  const entered = await enter(token, visitor);
  if (!entered.ok) return entered;
  const isOwn =
    isId(commentId) &&
    visitor.secret !== null &&
    (await changeComment(
      entered.value.id,
      commentId,
      { removedAt: isBack ? null : new Date() },
      keptOf(visitor.secret),
    ));
  return isOwn ? nothingMore : refused('Only who wrote a comment can take it back.');
}

/** Approves a version, or takes that back. */
export async function approve(
  token: string,
  visitor: Visitor & { secret: string },
  given: unknown,
  isApproved: boolean,
): Promise<Result<null>> {
  const entered = await enter(token, visitor);
  if (!entered.ok) return entered;
  const checked = check(ApprovalDto, given);
  if (!checked.ok) return checked;
  const { version, name } = checked.value;
  const key = keptOf(visitor.secret);
  const place = await placeOf(entered.value.id, version, undefined);
  if (!place.ok) return place;
  await changeApprovals(entered.value.id, version, (now) => {
    const others = now.filter((each) => each.key !== key);
    return isApproved ? [...others, { name, key, at: new Date().toISOString() }].slice(-100) : others;
  });
  return nothingMore;
}
