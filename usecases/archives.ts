import { importWords, mostTerms, termsIn } from '#core/words';
import { defaultVariety } from '#core/moments';
import { malformedAt, type Reel } from '#core/reel';
import type { Readable } from 'node:stream';
import { ArchiveError, openArchive, writeArchive, type ArchiveRow, type CheckRow } from '#data/archive';
import type { BoardKind } from '#data/log';
import { forgetReading, itemsWithoutCopy } from '#data/readings';
import { traceFamilies } from '#data/schema';
import {
  BinRowDto,
  ColourTableRowDto,
  isScore,
  MediaRowDto,
  PersonNumberRowDto,
  PersonRowDto,
  ScriptRowDto,
  SpeakersRowDto,
  SheetsDto,
  ShortsDocumentDto,
  StoredProbeDto,
} from './forms/archiveDto';
import {
  DecisionDto,
  MarkerDto,
  NameDto,
  PickDto,
  RecipeDto,
  RulesDto,
  SceneBoardDto,
  SeparationDto,
  SilenceChoiceDto,
} from './forms/dto';
import { MontageDto } from './forms/montageDto';
import { ClipItemDto, GapItemDto, ReelDocumentDto } from './forms/reelDocumentDto';
import { HouseStyleDto } from './forms/shortsDto';
import { VariantSetDto } from './forms/variantsDto';
import { checkCommand } from './checkCommand';
import { openProject } from './openProject';
import { enqueueReading } from './queue';
import { done, refused, type Result } from './result';
import { check, plain as plainData } from './validate';

/** A project as one file, with the footage too when that is wished. */
export async function packProject(
  projectId: string,
  withMedia: boolean,
): Promise<Result<{ name: string; stream: Readable }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  return done({ name: `${project.value.name}.zip`, stream: await writeArchive(projectId, withMedia) });
}

/** Opens a project archive as a new project. @returns its id, and the footage that it names but does not hold */
export async function unpackProject(file: string): Promise<Result<{ projectId: string; missing: string[] }>> {
  try {
    const opened = await openArchive(file, archiveRowChecks());
    // Working copies do not travel; reading makes them.
    for (const { name, ...key } of await itemsWithoutCopy(opened.projectId)) {
      await forgetReading(key);
      await enqueueReading(opened.projectId, key, name);
    }
    return done(opened);
  } catch (error) {
    if (error instanceof ArchiveError) return refused(error.message);
    throw error;
  }
}

/** What is wrong with a row; told to whoever opens the archive. */
class RowError extends Error {}
const refuse = (problem: string): never => {
  throw new RowError(problem);
};

/** The value as its class takes it, plain again; what the class does not know is dropped. */
function taken<T extends object>(dto: new () => T, value: unknown): object {
  const checked = check(dto, value);
  if (checked.ok) return plainData<object>(checked.value);
  const [field, problem] = Object.entries(checked.problems)[0]!;
  return refuse(field ? `${field}: ${problem}` : problem);
}
const document =
  <T extends object>(dto: new () => T) =>
  (row: ArchiveRow): ArchiveRow => ({ ...row, document: taken(dto, row.document) });
const columns =
  <T extends object>(dto: new () => T) =>
  (row: ArchiveRow): ArchiveRow => ({ ...row, ...taken(dto, row) });
const words = (row: ArchiveRow): ArchiveRow => ({
  ...row,
  words: (row.words as unknown[]).length ? importWords(JSON.stringify({ words: row.words })) : [],
});

/** Archives from before there were names and terms have none. */
const termsOf = ({ terms }: ArchiveRow): string[] =>
  Array.isArray(terms) ? termsIn(terms.filter((term) => typeof term === 'string').join('\n')).slice(0, mostTerms) : [];

const boardForms: { [Kind in BoardKind]: new () => object } = {
  scenes: SceneBoardDto,
  silence: SilenceChoiceDto,
  separation: SeparationDto,
  variants: VariantSetDto,
};

/** Only numbers, truth values and short texts, to whatever depth. */
function isPlain(value: unknown): boolean {
  if (value === null || typeof value === 'boolean') return true;
  if (typeof value === 'number') return Number.isFinite(value);
  if (typeof value === 'string') return value.length <= 1000;
  return typeof value === 'object' && Object.values(value).every(isPlain);
}
const plain = (row: ArchiveRow, ...names: string[]): ArchiveRow =>
  names.every((name) => isPlain(row[name] ?? null)) ? row : refuse('measurements hold something else than numbers');

/** Revisions of a reel share most of their pieces; each is looked at once. */
function reelDocuments(): (document: unknown) => object {
  const known = new Set<string>();
  return (given) => {
    const reel = taken(ReelDocumentDto, given) as Reel;
    for (const track of reel.tracks)
      track.items = track.items.map((item) => {
        const text = JSON.stringify(item);
        if (known.has(text)) return item;
        const own = (item.kind === 'gap' ? taken(GapItemDto, item) : taken(ClipItemDto, item)) as typeof item;
        known.add(JSON.stringify(own));
        return own;
      });
    const at = malformedAt(reel);
    return at === null ? reel : refuse(`${at} does not belong there`);
  };
}

/** Archives of earlier versions have the family of a trace in its name. */
function traceRow(row: ArchiveRow): ArchiveRow {
  const { name, family } = row;
  if (typeof name !== 'string' || name.length > 60) return refuse('a trace has no name');
  if (family !== undefined)
    return (traceFamilies as readonly unknown[]).includes(family) ? row : refuse('a trace is of no family');
  const prefix = /^(display\.|mouth:)/.exec(name)?.[0];
  if (prefix) return { ...row, family: prefix === 'mouth:' ? 'mouth' : 'decided', name: name.slice(prefix.length) };
  return { ...row, family: name === 'look' || name === 'fine' ? name : 'measured' };
}

/**
 * Checks the rows of an archive with the classes that guard edits: nothing enters this way that a screen could not have
 * sent. For one archive.
 */
export function archiveRowChecks(): CheckRow {
  const reelDocument = reelDocuments();
  const checks: Record<string, (row: ArchiveRow) => ArchiveRow> = {
    projects: (row) => ({
      ...row,
      ...taken(NameDto, row),
      rules: row.rules == null ? null : taken(RulesDto, row.rules),
      terms: termsOf(row),
      beginning: null,
      changed_at: new Date().toISOString(),
      put_away_at: null,
      removed_at: null,
    }),
    bins: columns(BinRowDto),
    media: columns(MediaRowDto),
    people: columns(PersonRowDto),
    person_numbers: columns(PersonNumberRowDto),
    transcripts: words,
    transcript_versions: words,
    scripts: columns(ScriptRowDto),
    speakers: columns(SpeakersRowDto),
    decisions: (row) => (taken(DecisionDto, { ...row, media: row.media_id }), { ...row, means: null }),
    markers: (row) => (taken(MarkerDto, { ...row, media: row.media_id }), row),
    // Archives from before variety counted have none.
    recipes: (row) => ({ variety: defaultVariety, ...columns(RecipeDto)(row) }),
    boards: (row) => {
      const form = boardForms[row.kind as BoardKind] as (new () => object) | undefined;
      return form ? document(form)(row) : refuse('there is no such view');
    },
    picks: (row) => {
      const {
        mix,
        limits,
        piece,
        variety = defaultVariety,
        arrangement = 'story',
        learning,
      } = taken(PickDto, {
        ...row,
        targetSeconds: row.target_seconds,
        photoSeconds: row.photo_seconds,
      }) as ArchiveRow;
      // The moments are found anew.
      return { ...row, mix, limits, piece, variety, arrangement, learning, moments: null };
    },
    // What a table makes of colours is found anew.
    colour_tables: (row) => ({ ...columns(ColourTableRowDto)(row), hash: null }),
    reels: columns(NameDto),
    reel_revisions: (row) => {
      const command = row.command === null ? null : checkCommand(row.command);
      // What an edit was called is not worth refusing a project for.
      return {
        ...row,
        document: reelDocument(row.document),
        command: command && (command.ok ? command.value : { type: 'several', name: 'changed the reel', commands: [] }),
      };
    },
    reel_versions: columns(NameDto),
    montages: document(MontageDto),
    short_sets: (row) => {
      const own = document(ShortsDocumentDto)(row);
      const { shorts, thumbs } = own.document as {
        shorts: { parts: Record<string, unknown> }[];
        thumbs: Record<string, unknown>;
      };
      const fits =
        shorts.every(({ parts }) => isScore(parts)) &&
        Object.values(thumbs).every((thumb) => thumb === 'up' || thumb === 'down');
      return fits ? own : refuse('scores and thumbs do not fit');
    },
    house_styles: (row) => ({ ...document(HouseStyleDto)(row), ...taken(NameDto, row), shared: false }),
    readings: (row) => ({
      ...plain(row, 'summary', 'faces', 'objects', 'range', 'loudness', 'warnings'),
      probe: taken(StoredProbeDto, row.probe),
      sheets: row.sheets == null ? null : taken(SheetsDto, row.sheets),
      proxy_key: null,
    }),
    traces: traceRow,
    runs: (row) => row,
    recognitions: (row) => ({
      ...words(row),
      revision: Number.isInteger(row.revision) ? row.revision : 1,
      terms: termsOf(row),
      language: typeof row.language === 'string' && row.language.length <= 35 ? row.language : null,
    }),
  };
  return (table, row) => {
    const own = checks[table];
    if (!own) return { problem: `there is no table “${table}”` };
    try {
      return { row: own(row) };
    } catch (error) {
      if (
        error instanceof RowError ||
        (error instanceof Error && error.name === 'WordsError') ||
        error instanceof TypeError
      )
        return { problem: `${table}: ${error.message}` };
      throw error;
    }
  };
}
