import { bringIn } from '#data/bringIn';
import {
  bringBack,
  findMedia,
  keyOf,
  kindByName,
  listMedia,
  listTakenOut,
  moveToBin,
  renameMedia,
  takeOut,
  whatHangsOn,
  type Hanging,
} from '#data/media';
import { binNamed, changeBin, createBin, findBin, isId, listBins, setBinSynced } from '#data/projects';
import { listTables } from '#data/looks';
import { hereRoot } from '#data/storage';
import { LinkDto } from './forms/deliveryDto';
import { BinDto, InStepDto, ItemsDto, NameDto, ReadingRangeDto, RenameDto } from './forms/dto';
import { changeInputLook } from './inputLooks';
import { findAgain, takeFromHere, watchFolder } from './here';
import { openProject } from './openProject';
import { paceOfReading } from './pace';
import { enqueueLink, enqueueReading, enqueueSync, queueArrival } from './queue';
import { rangeFrom, readAnew } from './readRange';
import { done, missing, refused, type Result } from './result';
import { changeSplit, splitRecordings } from './splitRecordings';
import { check } from './validate';

export type { Hanging };

export { whyNoRoom } from '#data/room';

/**
 * What stands beside the items: bins, what was taken out, how long this machine takes to read (see `readingPace`), colour
 * tables, and recordings that a camera split.
 */
export async function showFootage(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [bins, takenOut, pace, tables, split] = await Promise.all([
    listBins(project.value.id),
    listTakenOut(project.value.id),
    paceOfReading(),
    listTables(project.value.id),
    splitRecordings(project.value.id),
  ]);
  return done({ bins, takenOut, pace, tables, split, hasHere: (await hereRoot()) !== null });
}

/** What was asked about items: what hangs on them. */
export interface ItemsAnswer {
  hanging?: Hanging;
  ids?: string[];
  /** Why some of the items are not read so, one sentence each. */
  left?: string[];
}

/**
 * What the Footage place does with bins and items.
 * @param intent new-bin, rename-bin, delete-bin, bring-back-bin, in-step, link, here, watch, input-look; or with `ids` join, apart, hanging, take-out, bring-back, move, read, range,
 *   find-again, rename
 */
export async function changeFootage(projectId: string, intent: unknown, given: unknown): Promise<Result<ItemsAnswer>> {
  const opened = await openProject(projectId);
  if (!opened.ok) return opened;
  const project = opened.value.id;
  switch (intent) {
    case 'new-bin': {
      const checked = check(NameDto, given);
      if (!checked.ok) return checked;
      await createBin(project, checked.value.name);
      return done({});
    }
    case 'rename-bin': {
      const [which, checked] = [check(BinDto, given), check(NameDto, given)];
      if (!checked.ok) return checked;
      return changeOneBin(project, which, { name: checked.value.name });
    }
    case 'delete-bin':
    case 'bring-back-bin':
      return changeOneBin(project, check(BinDto, given), { removedAt: intent === 'delete-bin' ? new Date() : null });
    case 'in-step':
      return keepInStep(project, given);
    case 'link':
      return bringInByLink(project, given);
    case 'here':
      return takeFromHere(project, given);
    case 'watch':
      return watchFolder(project, given);
    case 'join':
    case 'apart':
      return changeSplit(project, given, intent === 'apart');
    case 'input-look':
      return changeInputLook(project, given);
    case 'find-again':
      return findAgain(project, given);
    case 'rename':
      return renameItem(project, given);
    case 'range':
      return readRanges(project, given);
    default: {
      const checked = check(ItemsDto, given);
      return checked.ok ? changeItems(project, intent, checked.value) : checked;
    }
  }
}

async function changeOneBin(
  projectId: string,
  which: Result<BinDto>,
  values: Parameters<typeof changeBin>[2],
): Promise<Result<ItemsAnswer>> {
  if (!which.ok) return which;
  return (await changeBin(projectId, which.value.bin, values))
    ? done({})
    : missing('This bin is not there any more.', 'bin');
}

async function keepInStep(projectId: string, given: unknown): Promise<Result<ItemsAnswer>> {
  const checked = check(InStepDto, given);
  const bin = checked.ok ? await findBin(projectId, checked.value.binId) : null;
  if (!checked.ok || !bin) return refused('This bin is not there any more.', 'bin');
  const synced = checked.value.synced === 'yes';
  await setBinSynced(projectId, bin.id, synced);
  if (synced) await enqueueSync(projectId, bin.id, bin.name);
  return done({});
}

async function bringInByLink(projectId: string, given: unknown): Promise<Result<ItemsAnswer>> {
  const checked = check(LinkDto, given);
  if (!checked.ok) return checked;
  try {
    await enqueueLink(projectId, checked.value.address, checked.value.binId ?? null);
    return done({});
  } catch (error) {
    if ((error as Error).name !== 'MediaError') throw error;
    return refused((error as Error).message, 'address');
  }
}

async function changeItems(projectId: string, intent: unknown, { ids, binId }: ItemsDto): Promise<Result<ItemsAnswer>> {
  if (intent === 'hanging') return done({ hanging: await whatHangsOn(projectId, ids), ids });
  if (intent === 'take-out') await takeOut(projectId, ids);
  else if (intent === 'bring-back') await bringBack(projectId, ids);
  else if (intent === 'move') await moveToBin(projectId, ids, binId ?? null);
  else if (intent === 'read') await readUnread(projectId, ids);
  return done({});
}

/** Gives an item another name. Its ending stays: it says what the file is. */
async function renameItem(projectId: string, given: unknown): Promise<Result<ItemsAnswer>> {
  const checked = check(RenameDto, given);
  if (!checked.ok) return checked;
  const { ids, name } = checked.value;
  const row = await findMedia(ids[0]!);
  if (row?.projectId !== projectId) return missing('This file is not in the project any more.', 'ids');
  await renameMedia(row.id, `${name}${/(?<=.)\.[^.]*$/.exec(row.name)?.[0] ?? ''}`);
  return done({});
}

/** Has the same stretch of several items read; of those that hold it. */
async function readRanges(projectId: string, given: unknown): Promise<Result<ItemsAnswer>> {
  const items = check(ItemsDto, given);
  if (!items.ok) return items;
  const stretch = check(ReadingRangeDto, given);
  if (!stretch.ok) return stretch;
  const { from, to } = stretch.value;
  if (to !== null && to - (from ?? 0) < 1) return refused('The range must be at least a second long.');
  const left: string[] = [];
  for (const id of items.value.ids) {
    const row = await findMedia(id);
    if (row?.projectId !== projectId || kindByName(row.name) === 'photo') continue;
    const problem = await readAnew(row, { range: rangeFrom(from, to) });
    if (problem) left.push(problem);
  }
  return done({ left });
}

/** Asks for those of the items to be read that have no whole reading. */
async function readUnread(projectId: string, ids: readonly string[]): Promise<void> {
  const known = new Map((await listMedia(projectId)).map((item) => [item.id, item]));
  for (const id of ids) {
    const item = known.get(id);
    const isRead = Boolean(item?.probe && !item.isRough);
    const row = await findMedia(id);
    if (row?.projectId === projectId && !isRead) await enqueueReading(projectId, keyOf(row), row.name);
  }
}

/** Whether a file may be uploaded for this project. */
export const takesUploads = async (projectId: string | null | undefined): Promise<boolean> =>
  (await openProject(projectId ?? '')).ok;

/**
 * Brings a file into a project that has arrived whole, and asks for it to be read.
 * @param file where it lies; it is moved
 * @param binId of the bin it goes to
 * @param binName of a bin that is made when it is not there; goes before `binId`
 * @returns the id of the item
 */
export async function takeUpload(
  projectId: string,
  file: string,
  filename: string,
  binId: unknown,
  binName?: string,
): Promise<string> {
  const name = cleanName(filename);
  const bin = binName?.trim() ? (await binNamed(projectId, cleanLine(binName).slice(0, 120))).id : binId;
  const row = await bringIn(projectId, file, name, { binId: isId(bin) ? bin : null });
  await queueArrival(row);
  return row.id;
}

/** File names come from anywhere: no folders, no control characters, not too long. */
function cleanName(name: string): string {
  const printed = cleanLine(name).split(/[\\/]/).at(-1)!.trim();
  return printed.slice(-200) || 'unnamed';
}

/** Without characters that are not printed. */
const cleanLine = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  text.replace(/[\u0000-\u001f\u007f]/g, '').trim();
