import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import {
  defaultVariety,
  type Arrangement,
  type Example,
  type Ingredients,
  type Limits,
  type Mix,
  type Moment,
  type PieceLength,
  type SceneBoard,
  type SeparationChoice,
} from '#core/moments';
import type { FaceSample, ObjectSample, PictureCoding } from '#core/picture';
import type { LoudnessSummary, ReadingRules, ReadingSummary } from '#core/readings';
import type { CaptionWay, Coding, HouseStyle, OutputFormat, Quality, Reel, ReelCommand, Shape } from '#core/reel';
import type { Montage } from '#core/montage';
import type { Material, Short, ShortsWish, Thumb } from '#core/shorts';
import type { HeardChannel, MusicHearing, SoundChoice, SoundTrack } from '#core/sound';
import type { Range, Rate, RecordingLabels } from '#core/time';
import type { VariantSet } from '#core/variants';
import type { VoiceTurn } from '#core/voices';
import type { Word } from '#core/words';

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const id = () => uuid('id').primaryKey().defaultRandom();
const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
const created = () => moment('created_at').notNull().defaultNow();

/** What somebody came to make. */
export const aims = ['reel', 'shorts', 'montage'] as const;
export type Aim = (typeof aims)[number];

/** What a project was begun for, and what was made at once. */
export interface Beginning {
  /** Null while nobody has said it. */
  aim: Aim | null;
  /** What stands there to be looked at; null until it is made. */
  made: { reel: string } | { shorts: string } | { music: string } | null;
  /** Whether it was made from a first look, with more to be read. */
  isFirstLook: boolean;
}

export const projects = pgTable('projects', {
  id: id(),
  name: text('name').notNull(),
  /** Sensitivities of the readings where they are not the usual ones. */
  rules: jsonb('rules').$type<ReadingRules>(),
  /** Names and terms that are said in its footage, as they are written. */
  terms: jsonb('terms').$type<string[]>().notNull().default([]),
  /** Null for a project that was begun by its name. */
  beginning: jsonb('beginning').$type<Beginning>(),
  createdAt: created(),
  /** Of anything in it. */
  changedAt: moment('changed_at').notNull().defaultNow(),
  /** Put away: it is there, and out of the way. */
  putAwayAt: moment('put_away_at'),
  /** Deleted; it can be brought back. */
  removedAt: moment('removed_at'),
});

export const bins = pgTable('bins', {
  id: id(),
  projectId: uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  position: integer('position').notNull().default(0),
  /** Its cameras ran at the same time and must stay in step. */
  synced: boolean('synced').notNull().default(false),
  /** The input look of films that are brought into it, as `ReadingWay` has it. */
  inputLook: text('input_look'),
  /** Deleted; it can be brought back, with what lies in it. */
  removedAt: moment('removed_at'),
});

/** Folders of this machine whose new files come into a project by themselves; paths as `hereKey` has them. */
export const watchedFolders = pgTable(
  'watched_folders',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    path: text('path').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.path] })],
);

/** Content, stored once whatever the projects it is in. */
export const files = pgTable('files', {
  hash: text('hash').primaryKey(),
  size: bigint('size', { mode: 'number' }).notNull(),
  storageKey: text('storage_key').notNull(),
  /** What it is, as its header says; known before it was read. Null for what came in with an earlier version. */
  probe: jsonb('probe').$type<StoredProbe>(),
  createdAt: created(),
});

export interface Learning {
  on: boolean;
  /** Ids of decisions that no longer teach. */
  forgotten: string[];
  /** The taste that these choices belong to, and that teaches with what was decided in other projects; only this one when missing. */
  taste?: string | null;
}

export type MediaKind = 'video' | 'sound' | 'photo';

/** A file in a project. */
export const media = pgTable(
  'media',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    fileHash: text('file_hash')
      .notNull()
      .references(() => files.hash),
    binId: uuid('bin_id').references(() => bins.id, { onDelete: 'set null' }),
    name: text('name').notNull(),
    position: integer('position').notNull().default(0),
    /** The stretch that is to be read; the whole file when null. `parameters` is the same as part of the reading's key. */
    readFrom: doublePrecision('read_from'),
    readTo: doublePrecision('read_to'),
    parameters: text('parameters').notNull().default(''),
    /** Another stretch that is being read; it takes the place of the one above once it is there. Null parameters: none. */
    nextFrom: doublePrecision('next_from'),
    nextTo: doublePrecision('next_to'),
    nextParameters: text('next_parameters'),
    /** What of it is wanted at all, as its editor said; null for the ends of the file. */
    defaultIn: doublePrecision('default_in'),
    defaultOut: doublePrecision('default_out'),
    /** Where it begins on the common clock of its synced bin, in seconds; null while that is not known. */
    syncOffset: doublePrecision('sync_offset'),
    /** One sentence when the file cannot be used. */
    problem: text('problem'),
    createdAt: created(),
    /** When it was taken out of the project; everything that hangs on it stays, so that it can be brought back. */
    removedAt: moment('removed_at'),
  },
  (table) => [index('media_project').on(table.projectId, table.position)],
);

/** What a file is. What later versions came to know is missing in readings that are older than it. */
export interface StoredProbe extends Partial<RecordingLabels> {
  kind: MediaKind;
  durationSeconds: number;
  rate: Rate | null;
  width: number;
  height: number;
  /** Of photos that an earlier version read: EXIF's value; 1 for upright. Now part of `coding`. */
  orientation?: number;
  /** How the pictures of what is opened are coded; null for sound. */
  coding?: PictureCoding | null;
  /** Whether everything opens a working copy, which lies where the proxy of the reading does. */
  copied?: boolean;
  soundTracks?: SoundTrack[];
  /** What of its sound was heard. */
  heard?: SoundChoice;
  /** What there is in each channel, where there is something to choose. */
  listened?: HeardChannel[];
  hasSound: boolean;
  /** Of a first look: seconds from one point that was looked at to the next. */
  glancedEvery?: number;
  videoCodec: string | null;
  audioCodec: string | null;
  format: string;
}
export interface StoredSheets {
  /** The input look that its pictures have; part of their address. */
  inputLook?: string;
  start?: number;
  hz: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
  count: number;
}

const readingKey = () => ({
  hash: text('hash').notNull(),
  version: integer('version').notNull(),
  parameters: text('parameters').notNull().default(''),
});

/** What the machine read in a file; found again by content, reader version and parameters. */
export const readings = pgTable(
  'readings',
  {
    ...readingKey(),
    probe: jsonb('probe').$type<StoredProbe>().notNull(),
    summary: jsonb('summary').$type<ReadingSummary>().notNull(),
    faces: jsonb('faces').$type<FaceSample[]>().notNull(),
    objects: jsonb('objects').$type<ObjectSample[]>().notNull().default([]),
    range: jsonb('range').$type<Range>(),
    sheets: jsonb('sheets').$type<StoredSheets>(),
    proxyKey: text('proxy_key'),
    loudness: jsonb('loudness').$type<LoudnessSummary>(),
    warnings: jsonb('warnings').$type<string[]>().notNull(),
    tookSeconds: real('took_seconds').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.hash, table.version, table.parameters] })],
);

/** Of values over time: measured in the file; decided from that for display; looks and fine levels of pictures; mouths that were watched. */
export const traceFamilies = ['measured', 'decided', 'look', 'fine', 'mouth'] as const;

export const traces = pgTable(
  'traces',
  {
    ...readingKey(),
    family: text('family', { enum: traceFamilies }).notNull().default('measured'),
    name: text('name').notNull(),
    hz: doublePrecision('hz').notNull(),
    start: doublePrecision('start').notNull().default(0),
    values: bytea('values').notNull(),
  },
  (table) => [primaryKey({ columns: [table.hash, table.version, table.parameters, table.family, table.name] })],
);

export const runs = pgTable(
  'runs',
  {
    id: id(),
    ...readingKey(),
    kind: text('kind').notNull(),
    start: doublePrecision('start').notNull(),
    end: doublePrecision('end').notNull(),
    label: text('label'),
    amount: real('amount'),
    size: real('size'),
    confidence: real('confidence').notNull().default(1),
  },
  (table) => [index('runs_reading').on(table.hash, table.version, table.parameters)],
);

/** Persons that somebody named, joined or hid; `tracks` are the face tracks fixed to them, as "media/track". */
export const people = pgTable(
  'people',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    hidden: boolean('hidden').notNull().default(false),
    portrait: jsonb('portrait').$type<{ media: string; time: number }>(),
    tracks: jsonb('tracks').$type<string[]>().notNull().default([]),
  },
  (table) => [index('people_project').on(table.projectId)],
);

/** What people without a name are called by: "Person 5" stays 5. */
export const personNumbers = pgTable(
  'person_numbers',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    /** Key of a track of theirs. */
    track: text('track').notNull(),
    number: integer('number').notNull(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.track] })],
);

/** Words that a recogniser heard in a file; found again by content. */
export const recognitions = pgTable(
  'recognitions',
  {
    hash: text('hash').notNull(),
    recogniser: text('recogniser').notNull(),
    parameters: text('parameters').notNull().default(''),
    words: jsonb('words').$type<Word[]>().notNull(),
    /** Of the way to hear; a later one hears better. */
    revision: integer('revision').notNull().default(1),
    /** Names and terms that it knew. */
    terms: jsonb('terms').$type<string[]>().notNull().default([]),
    /** BCP 47, where the recogniser was told or told it; null for what an earlier version heard. */
    language: text('language'),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.hash, table.recogniser, table.parameters] })],
);

/** Words of an item that somebody corrected or brought in; they stand before what a recogniser heard. */
export const transcripts = pgTable('transcripts', {
  mediaId: uuid('media_id')
    .primaryKey()
    .references(() => media.id, { onDelete: 'cascade' }),
  source: text('source').notNull(),
  words: jsonb('words').$type<Word[]>().notNull(),
  /** BCP 47; null when nobody said and it could not be told. */
  language: text('language'),
  version: integer('version').notNull().default(1),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

/** Who speaks when in an item, by voice, and what the voices are called. */
export const speakers = pgTable('speakers', {
  mediaId: uuid('media_id')
    .primaryKey()
    .references(() => media.id, { onDelete: 'cascade' }),
  turns: jsonb('turns').$type<VoiceTurn[]>().notNull(),
  /** By the number of the voice; those without a name are not in it. */
  names: jsonb('names').$type<Record<string, string>>().notNull().default({}),
  version: integer('version').notNull().default(1),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

/** Texts without times that were brought in, until their words have their times. */
export const scripts = pgTable('scripts', {
  mediaId: uuid('media_id')
    .primaryKey()
    .references(() => media.id, { onDelete: 'cascade' }),
  /** Of the file it came from; empty when it was pasted. */
  name: text('name').notNull(),
  text: text('text').notNull(),
  /** BCP 47. */
  language: text('language').notNull(),
  createdAt: created(),
});

/** Texts of an item that another one took the place of; each can be shown again. */
export const transcriptVersions = pgTable(
  'transcript_versions',
  {
    id: id(),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id, { onDelete: 'cascade' }),
    source: text('source').notNull(),
    language: text('language'),
    words: jsonb('words').$type<Word[]>().notNull(),
    createdAt: created(),
  },
  (table) => [index('transcript_versions_media').on(table.mediaId)],
);

/** What a person decided about a stretch; taken back by undo, never deleted. */
export const decisions = pgTable(
  'decisions',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id, { onDelete: 'cascade' }),
    start: doublePrecision('start').notNull(),
    end: doublePrecision('end').notNull(),
    verdict: text('verdict').$type<'keep' | 'drop'>().notNull(),
    /** What the stretch is made of, as a score is; found when it is first asked for. */
    means: jsonb('means').$type<Ingredients>(),
    createdAt: created(),
    removedAt: moment('removed_at'),
  },
  (table) => [index('decisions_project').on(table.projectId)],
);

/** What somebody likes, under a name: what was decided in all projects that learn by it, and what was brought along. */
export const tastes = pgTable('tastes', {
  id: id(),
  name: text('name').notNull(),
  brought: jsonb('brought').$type<Example[]>().notNull().default([]),
  createdAt: created(),
  removedAt: moment('removed_at'),
});

export const markerKinds = ['note', 'good', 'problem', 'idea'] as const;
export type MarkerKind = (typeof markerKinds)[number];

/** Notes at a frame of the footage; taken back by undo, never deleted. */
export const markers = pgTable(
  'markers',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id, { onDelete: 'cascade' }),
    seconds: doublePrecision('seconds').notNull(),
    note: text('note').notNull().default(''),
    kind: text('kind').$type<MarkerKind>().notNull().default('note'),
    createdAt: created(),
    removedAt: moment('removed_at'),
  },
  (table) => [index('markers_project').on(table.projectId)],
);

/** Own mixes of a project. */
export const recipes = pgTable(
  'recipes',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    mix: jsonb('mix').$type<Mix>().notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    piece: jsonb('piece').$type<PieceLength>().notNull(),
    variety: doublePrecision('variety').notNull().default(defaultVariety),
    createdAt: created(),
    removedAt: moment('removed_at'),
  },
  (table) => [index('recipes_project').on(table.projectId)],
);

export interface SilenceChoice {
  /** Level in dBFS under which it is silent; null for what each file's room noise suggests. */
  thresholdDb: number | null;
  minSeconds: number;
  padSeconds: number;
  kept: (Range & { media: string })[];
}

/** Documents of a project's views: scenes as arranged, silences kept, groups of variants. One row a view. */
export const boards = pgTable(
  'boards',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<'scenes' | 'silence' | 'separation' | 'variants'>().notNull(),
    document: jsonb('document').$type<SceneBoard | SilenceChoice | SeparationChoice | VariantSet>().notNull(),
    version: integer('version').notNull().default(0),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.kind] })],
);

/** How a project picks, and the moments it last kept. */
export const picks = pgTable('picks', {
  projectId: uuid('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  mix: jsonb('mix').$type<Mix>().notNull(),
  limits: jsonb('limits').$type<Limits>().notNull(),
  piece: jsonb('piece').$type<PieceLength>().notNull(),
  /** 0 for only the best, 100 for something of everything. */
  variety: doublePrecision('variety').notNull().default(defaultVariety),
  /** How moments follow one another in a reel that is made of them. */
  arrangement: text('arrangement').$type<Arrangement>().notNull().default('story'),
  targetSeconds: doublePrecision('target_seconds'),
  water: doublePrecision('water'),
  /** Whether keeps and drops teach a mix, and which of them were forgotten. */
  learning: jsonb('learning').$type<Learning>().notNull().default({ on: true, forgotten: [] }),
  /** How long a photo stands. */
  photoSeconds: doublePrecision('photo_seconds').notNull().default(4),
  /** Goes up with every change, so that two windows do not overwrite one another silently. */
  version: integer('version').notNull().default(0),
  moments: jsonb('moments').$type<Moment[]>(),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

/** What a reel is beside itself: the project's pile of good pieces, or a short that lives in its set. */
export type ReelRole = 'selects' | 'short';

export const reels = pgTable('reels', {
  id: id(),
  projectId: uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  role: text('role').$type<ReelRole>(),
  head: integer('head').notNull().default(0),
  /** The edit or step that was saved last, so that one that comes twice is known. */
  lastEdit: uuid('last_edit'),
  createdAt: created(),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

/** Append-only: undo moves the reel's head to a parent, nothing is ever lost. */
export const reelRevisions = pgTable(
  'reel_revisions',
  {
    reelId: uuid('reel_id')
      .notNull()
      .references(() => reels.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    parent: integer('parent'),
    document: jsonb('document').$type<Reel>().notNull(),
    command: jsonb('command').$type<ReelCommand>(),
    /** Id of the edit that made it, as its sender named it. */
    edit: uuid('edit'),
    createdAt: created(),
  },
  (table) => [
    primaryKey({ columns: [table.reelId, table.number] }),
    index('reel_revisions_edit').on(table.reelId, table.edit),
  ],
);

export type TaskState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** Workers that are there, as they said last. */
export const workers = pgTable('workers', {
  id: uuid('id').primaryKey(),
  /** The machine, by its name. */
  host: text('host').notNull(),
  pid: integer('pid').notNull(),
  /** How many tasks of each lane it runs at once. */
  slots: jsonb('slots').$type<Record<string, number>>().notNull(),
  /** Runs that it is at. */
  runs: jsonb('runs').$type<string[]>().notNull().default([]),
  /** It takes nothing more. */
  draining: boolean('draining').notNull().default(false),
  startedAt: moment('started_at').notNull().defaultNow(),
  heartbeatAt: moment('heartbeat_at').notNull().defaultNow(),
});

/** What the file of a speech model says about itself. */
export interface SpeechModelFacts {
  size: 'tiny' | 'base' | 'small' | 'medium' | 'large' | null;
  /** How its numbers are stored. */
  precision: string;
  /** BCP 47. */
  languages: string[];
}

/** Speech models that somebody brought. */
export const speechModels = pgTable('speech_models', {
  /** Of its file. */
  name: text('name').primaryKey(),
  storageKey: text('storage_key').notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  /** What its file says about it. */
  facts: jsonb('facts').$type<SpeechModelFacts>().notNull(),
  /** Words are heard with the one that is in use since the latest; with another recogniser where none is. */
  usedSince: moment('used_since'),
  /** Seconds that a second of speech takes on the machine that tried it; null until it was tried. */
  pace: doublePrecision('pace'),
  /** Why it cannot be used, as a sentence. */
  problem: text('problem'),
  createdAt: created(),
});

/** Uploads on their way into a bucket, whose parts lie there until all have come. */
export const uploads = pgTable('uploads', {
  id: text('id').primaryKey(),
  /** Of the whole file, in bytes. */
  length: bigint('length', { mode: 'number' }).notNull(),
  /** So many bytes have come. */
  received: bigint('received', { mode: 'number' }).notNull().default(0),
  metadata: jsonb('metadata').$type<Record<string, string | null>>().notNull(),
  createdAt: created(),
  changedAt: moment('changed_at').notNull().defaultNow(),
});

/** Who is at an upload just now, in whatever process; a lock that is not renewed is void. */
export const uploadLocks = pgTable('upload_locks', {
  id: text('id').primaryKey(),
  holder: uuid('holder').notNull(),
  until: moment('until').notNull(),
  /** Somebody else waits for it. */
  wanted: boolean('wanted').notNull().default(false),
});

export const tasks = pgTable(
  'tasks',
  {
    id: id(),
    projectId: uuid('project_id').references(() => projects.id, { onDelete: 'cascade' }),
    kind: text('kind')
      .$type<
        | 'glance'
        | 'chain'
        | 'read'
        | 'render'
        | 'words'
        | 'align'
        | 'voices'
        | 'sync'
        | 'match'
        | 'hear'
        | 'frame'
        | 'post'
        | 'fetch'
        | 'join'
        | 'music'
      >()
      .notNull(),
    subject: text('subject').notNull(),
    title: text('title').notNull(),
    state: text('state').$type<TaskState>().notNull().default('queued'),
    progress: real('progress').notNull().default(0),
    secondsLeft: real('seconds_left'),
    /** Where in the file of the task an editor looks just now, in seconds; what is there is done first. */
    focusSeconds: real('focus_seconds'),
    sentence: text('sentence'),
    cancelRequested: boolean('cancel_requested').notNull().default(false),
    /** It ended, and its line was put away. */
    putAway: boolean('put_away').notNull().default(false),
    attempts: integer('attempts').notNull().default(0),
    /** Its place in its lane: lower goes first. Projects take turns. */
    rank: integer('rank').notNull().default(0),
    /** The run that has it: another one each time a worker takes it. */
    workSeconds: real('work_seconds'),
    workerId: text('worker_id'),
    heartbeatAt: moment('heartbeat_at'),
    createdAt: created(),
    startedAt: moment('started_at'),
    endedAt: moment('ended_at'),
  },
  (table) => [
    index('tasks_state').on(table.state),
    index('tasks_subject').on(table.subject),
    // What waits or runs is there once.
    uniqueIndex('tasks_active')
      .on(table.kind, table.subject)
      .where(sql`state in ('queued', 'running')`),
  ],
);

export const renders = pgTable('renders', {
  id: id(),
  projectId: uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  reelId: uuid('reel_id')
    .notNull()
    .references(() => reels.id, { onDelete: 'cascade' }),
  revision: integer('revision').notNull(),
  name: text('name').notNull(),
  width: integer('width').notNull(),
  height: integer('height').notNull(),
  seconds: doublePrecision('seconds').notNull(),
  taskId: uuid('task_id').references(() => tasks.id, { onDelete: 'set null' }),
  storageKey: text('storage_key'),
  size: bigint('size', { mode: 'number' }),
  format: text('format').$type<OutputFormat>().notNull().default('mp4'),
  quality: text('quality').$type<Quality>().notNull().default('good'),
  captions: text('captions').$type<CaptionWay>().notNull().default('burnt'),
  /** Frames of the reel; all when null. */
  range: jsonb('range').$type<{ start: number; end: number }>(),
  /** Measured in the finished file (EBU R 128). */
  integratedLufs: real('integrated_lufs'),
  truePeakDb: real('true_peak_db'),
  createdAt: created(),
});

/** Stretches of a film that several workers make, while it is made. */
export const renderStretches = pgTable(
  'render_stretches',
  {
    renderId: uuid('render_id')
      .notNull()
      .references(() => renders.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** The run that makes it, or made it. */
    holder: uuid('holder').notNull(),
    made: boolean('made').notNull().default(false),
    heartbeatAt: moment('heartbeat_at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.renderId, table.name] })],
);

/** Revisions of a reel that somebody gave a name. */
export const reelVersions = pgTable(
  'reel_versions',
  {
    id: id(),
    reelId: uuid('reel_id')
      .notNull()
      .references(() => reels.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    name: text('name').notNull(),
    createdAt: created(),
  },
  (table) => [index('reel_versions_reel').on(table.reelId)],
);

/** Colour tables that were brought in as `.cube` files; see `ColourTable`. */
export const colourTables = pgTable(
  'colour_tables',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    size: integer('size').notNull(),
    from: jsonb('from').$type<[number, number, number]>().notNull(),
    to: jsonb('to').$type<[number, number, number]>().notNull(),
    values: bytea('values').notNull(),
    /** Of what it makes of colours; null until it is asked for. */
    hash: text('hash'),
    createdAt: created(),
  },
  (table) => [index('colour_tables_project').on(table.projectId)],
);

/** Whether one file goes on in another, by content; asked where names and times suggest it. */
export const continuations = pgTable(
  'continuations',
  {
    before: text('before').notNull(),
    after: text('after').notNull(),
    /** False as well when somebody said that they are two. */
    unbroken: boolean('unbroken').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.before, table.after] })],
);

/** Recordings that were put together from parts: content of a part, and of the whole. */
export const wholes = pgTable(
  'wholes',
  { part: text('part').notNull(), whole: text('whole').notNull(), createdAt: created() },
  (table) => [primaryKey({ columns: [table.part, table.whole] })],
);

/** Where one recording lies in another, found by their sound; found again by content. See `RecordingOffset`. */
export const matches = pgTable(
  'matches',
  {
    reference: text('reference').notNull(),
    other: text('other').notNull(),
    offsetSeconds: doublePrecision('offset_seconds').notNull(),
    driftPpm: real('drift_ppm').notNull(),
    confidence: real('confidence').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.reference, table.other] })],
);

/** What was heard in a piece of music: beats, bars, sections; found again by content. */
export const hearings = pgTable(
  'hearings',
  {
    hash: text('hash').notNull(),
    version: integer('version').notNull(),
    hearing: jsonb('hearing').$type<MusicHearing>().notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.hash, table.version] })],
);

/** How a project cuts to a piece of music: its beats put right, marks by hand, slots and what fills them. */
export const montages = pgTable(
  'montages',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id, { onDelete: 'cascade' }),
    /** The reel that was made of it and follows it. */
    reelId: uuid('reel_id').references(() => reels.id, { onDelete: 'set null' }),
    document: jsonb('document').$type<Montage>().notNull(),
    version: integer('version').notNull().default(1),
    updatedAt: moment('updated_at').notNull().defaultNow(),
  },
  (table) => [uniqueIndex('montages_media').on(table.projectId, table.mediaId)],
);

/** A short that was found, and the reel that was made of it. */
export interface StoredShort extends Short {
  reelId: string | null;
}

export interface ShortsDocument {
  /** With the request as it was written; what it means was looked up when the shorts were found. */
  wish: ShortsWish & { shape: Shape; request: string; houseStyle: string | null };
  material: Material;
  /** Why it was taken for that; empty when it was chosen by hand. */
  because: string;
  /** Best first, with some to spare. */
  shorts: StoredShort[];
  thumbs: Record<string, Thumb>;
  /** Ids in an order made by hand; null for that of the ranking. */
  order: string[] | null;
}

/** Shorts that were looked for in a recording. */
export const shortSets = pgTable(
  'short_sets',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id, { onDelete: 'cascade' }),
    document: jsonb('document').$type<ShortsDocument>().notNull(),
    version: integer('version').notNull().default(1),
    createdAt: created(),
  },
  (table) => [index('short_sets_project').on(table.projectId)],
);

/** House styles of a project; one that is shared can be chosen in every project. */
export const houseStyles = pgTable(
  'house_styles',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    shared: boolean('shared').notNull().default(false),
    document: jsonb('document').$type<HouseStyle>().notNull(),
    createdAt: created(),
  },
  (table) => [index('house_styles_project').on(table.projectId)],
);

/** What was handed to an outlet; one row is posted once, however often it is tried. */
export const posts = pgTable(
  'posts',
  {
    id: id(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    renderId: uuid('render_id')
      .notNull()
      .references(() => renders.id, { onDelete: 'cascade' }),
    outlet: text('outlet').notNull(),
    account: text('account').notNull(),
    title: text('title').notNull(),
    text: text('text').notNull().default(''),
    scheduledAt: moment('scheduled_at'),
    taskId: uuid('task_id').references(() => tasks.id, { onDelete: 'set null' }),
    /** Where it is to be seen, once it is. */
    link: text('link'),
    createdAt: created(),
  },
  (table) => [index('posts_project').on(table.projectId)],
);

/** A reel or short that is shown to others under a link. The link lasts as long as the reel; its address can be changed. */
export const viewings = pgTable('viewings', {
  id: id(),
  projectId: uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  reelId: uuid('reel_id')
    .notNull()
    .unique()
    .references(() => reels.id, { onDelete: 'cascade' }),
  /** The part of the address that nobody can guess. */
  token: text('token').notNull().unique(),
  /** As `hashPassword` makes it; null for none. */
  passwordHash: text('password_hash'),
  /** From then on nothing is shown; null for no end. */
  endsAt: moment('ends_at'),
  mayDownload: boolean('may_download').notNull().default(false),
  /** When it was closed by hand. */
  closedAt: moment('closed_at'),
  /** Wrong passwords in a row, and when the last one came. */
  wrongGuesses: integer('wrong_guesses').notNull().default(0),
  guessedAt: moment('guessed_at'),
  createdAt: created(),
});

export interface Approval {
  name: string;
  at: string;
  /** Hash of what its sender's browser keeps, by which it can be taken back. */
  key: string;
}

/** States of a reel that were shown, each by a file of its own. */
export const viewingVersions = pgTable(
  'viewing_versions',
  {
    id: id(),
    viewingId: uuid('viewing_id')
      .notNull()
      .references(() => viewings.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    revision: integer('revision').notNull(),
    /** What its editor says of it. */
    note: text('note').notNull().default(''),
    /** Null when the file was deleted among the outputs. */
    renderId: uuid('render_id').references(() => renders.id, { onDelete: 'set null' }),
    approvals: jsonb('approvals').$type<Approval[]>().notNull().default([]),
    createdAt: created(),
  },
  (table) => [uniqueIndex('viewing_versions_number').on(table.viewingId, table.number)],
);

/** What was said of a version; taken back by hand, never deleted. */
export const viewingComments = pgTable(
  'viewing_comments',
  {
    id: id(),
    viewingId: uuid('viewing_id')
      .notNull()
      .references(() => viewings.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => viewingVersions.id, { onDelete: 'cascade' }),
    /** The comment that it answers. */
    answers: uuid('answers'),
    /** In the version's film. */
    seconds: doublePrecision('seconds').notNull(),
    author: text('author').notNull(),
    text: text('text').notNull(),
    fromEditor: boolean('from_editor').notNull().default(false),
    /** As that of an approval; null for an editor's. */
    key: text('key'),
    createdAt: created(),
    doneAt: moment('done_at'),
    removedAt: moment('removed_at'),
  },
  (table) => [index('viewing_comments_viewing').on(table.viewingId)],
);

/** Ways to make a file that are kept by name, for all projects; taken away by a time, never deleted. */
export const outputPresets = pgTable('output_presets', {
  id: id(),
  name: text('name').notNull(),
  coding: jsonb('coding').$type<Coding>().notNull(),
  createdAt: created(),
  removedAt: moment('removed_at'),
});

/** Wrong passwords by who gave them, as `rate-limiter-flexible` counts them. */
export const guesses = pgTable('guesses', {
  key: text('key').primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
});
