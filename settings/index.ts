import 'reflect-metadata';
import { plainToInstance, Transform, Type } from 'class-transformer';
import {
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUrl,
  Length,
  Matches,
  Max,
  Min,
  validateSync,
} from 'class-validator';

const levels = ['trace', 'debug', 'info', 'warn', 'error', 'fatal', 'silent'] as const;
const number = () => Type(() => Number);
/** "a, b" is a list; nothing is an empty one. */
const list = () =>
  Transform(({ value }: { value: unknown }) =>
    typeof value === 'string'
      ? value
          .split(',')
          .map((each) => each.trim())
          .filter(Boolean)
      : value,
  );

/** Every environment variable that Bright Reel knows, with its default and its check. */
export class Settings {
  @number() @IsInt() @Min(1) @Max(65_535) PORT = 4310;
  @IsString() @Length(1, 255) HOST = '127.0.0.1';
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_PASSWORD?: string;
  @list() @IsString({ each: true }) BRIGHT_REEL_HOSTS: string[] = [];
  @list()
  @Matches(/^(linklocal|uniquelocal|[\da-fA-F.:]+(\/\d{1,3})?)$/, { each: true })
  BRIGHT_REEL_PROXIES: string[] = [];
  @IsOptional() @Matches(/^postgres(ql)?:\/\//) DATABASE_URL?: string;
  @IsString() @Length(1, 1000) BRIGHT_REEL_DATA = 'data/local';
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_STORAGE?: string;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_STORAGE_BEFORE?: string;
  @IsOptional() @IsUrl({ require_tld: false, require_protocol: true }) BRIGHT_REEL_S3_ENDPOINT?: string;
  @IsOptional() @IsUrl({ require_tld: false, require_protocol: true }) BRIGHT_REEL_S3_BROWSERS?: string;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_CACHE?: string;
  @number() @IsInt() @Min(10e6) BRIGHT_REEL_CACHE_BYTES = 20e9;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_FOOTAGE?: string;
  @IsIn(['yes', 'no']) BRIGHT_REEL_DEMO: 'yes' | 'no' = 'yes';
  @number() @IsInt() @Min(0) @Max(64) BRIGHT_REEL_WORKERS = 1;
  @number() @IsInt() @Min(1) @Max(64) BRIGHT_REEL_CONCURRENCY = 1;
  @list()
  @Matches(/^(read|render|words|rest)(:([1-9]|[1-5]\d|6[0-4]))?$/, { each: true })
  BRIGHT_REEL_WORKER: string[] = [];
  @number() @IsNumber() @Min(1) BRIGHT_REEL_STALE_SECONDS = 8;
  @number() @IsNumber() @Min(1) BRIGHT_REEL_STALL_SECONDS = 300;
  @number() @IsInt() @Min(256e6) BRIGHT_REEL_PROGRAM_BYTES = 8e9;
  @number() @IsInt() @Min(0) BRIGHT_REEL_RESERVE_BYTES = 500e6;
  @list() @IsString({ each: true }) BRIGHT_REEL_ALLOWED_HOSTS: string[] = [];
  @number() @IsInt() @Min(1) BRIGHT_REEL_LINK_BYTES = 20e9;
  @IsOptional() @IsUrl({ require_tld: false }) BRIGHT_REEL_OUTLET_URL?: string;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_WHISPER?: string;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_WHISPER_MODEL?: string;
  @list() @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { each: true }) BRIGHT_REEL_WHISPER_LANGUAGES: string[] = ['en'];
  @IsOptional()
  @IsUrl({ require_tld: false, require_protocol: true, protocols: ['http', 'https'] })
  BRIGHT_REEL_TRANSCRIPTION_URL?: string;
  @IsOptional() @IsString() @Length(1, 1000) BRIGHT_REEL_TRANSCRIPTION_KEY?: string;
  @IsString() @Length(1, 200) BRIGHT_REEL_TRANSCRIPTION_MODEL = 'whisper-1';
  @IsIn(levels) LOG_LEVEL: (typeof levels)[number] = 'info';
}
type Name = keyof Settings;

/** What each is, for `./start --help` and the README; and what it has to be, for whoever wrote something else. */
export const sentences: Record<Name, { example: string; says: string; wants: string }> = {
  PORT: {
    example: '8080',
    says: 'another port; a free one is taken when it is busy',
    wants: 'a number from 1 to 65535',
  },
  HOST: {
    example: '0.0.0.0',
    says: 'the address it listens on; on any but this machine’s own it asks for the password',
    wants: 'an address',
  },
  BRIGHT_REEL_PASSWORD: { example: '…', says: 'what it asks for then', wants: 'a text' },
  BRIGHT_REEL_HOSTS: {
    example: 'reels.example.org',
    says: 'names under which it is reached from other machines, through a proxy on this one too, with commas between; its address and host name always count',
    wants: 'hosts with commas between',
  },
  BRIGHT_REEL_PROXIES: {
    example: '10.0.0.5',
    says: 'addresses or ranges of reverse proxies that say for whom they ask, with commas between; one on this machine always may, “uniquelocal” is every private address',
    wants: 'addresses or ranges with commas between',
  },
  DATABASE_URL: {
    example: 'postgresql://…',
    says: 'a PostgreSQL of yours instead of our own',
    wants: 'an address that begins with postgresql://',
  },
  BRIGHT_REEL_DATA: {
    example: '/folder',
    says: 'where footage, renders, the database and the logs are kept',
    wants: 'a folder',
  },
  BRIGHT_REEL_STORAGE: {
    example: 's3://bucket/prefix',
    says: 'where footage, readings and finished files lie instead of a folder below the data: a bucket, with credentials and region as the AWS SDK finds them, or another folder',
    wants: 'a bucket as s3://bucket/prefix, or a folder',
  },
  BRIGHT_REEL_STORAGE_BEFORE: {
    example: '/data/store',
    says: 'where they lay before, while `./bright-reel storage move` brings them over; what is not here yet is read there',
    wants: 'a bucket as s3://bucket/prefix, or a folder',
  },
  BRIGHT_REEL_S3_ENDPOINT: {
    example: 'http://10.0.0.9:9000',
    says: 'a store that speaks as S3 does and is not Amazon’s',
    wants: 'an address that begins with http:// or https://',
  },
  BRIGHT_REEL_S3_BROWSERS: {
    example: 'https://files.example.org',
    says: 'under which address browsers reach the store and get files by themselves; without it they get them through the web server',
    wants: 'an address that begins with http:// or https://',
  },
  BRIGHT_REEL_CACHE: {
    example: '/fast/cache',
    says: 'where a machine keeps copies of what lies in a bucket, for ffmpeg; below the data when nothing is said',
    wants: 'a folder',
  },
  BRIGHT_REEL_CACHE_BYTES: {
    example: '100000000000',
    says: 'how much of it is kept at most, in bytes; what was used longest ago goes first',
    wants: 'a number of bytes, 10000000 or more',
  },
  BRIGHT_REEL_FOOTAGE: {
    example: '/footage',
    says: 'a folder of this machine below which footage is used where it lies, without a copy',
    wants: 'a folder',
  },
  BRIGHT_REEL_DEMO: { example: 'no', says: 'whether the demo project is made', wants: 'yes or no' },
  BRIGHT_REEL_WORKERS: { example: '2', says: 'how many workers run on this machine', wants: 'a number from 0 to 64' },
  BRIGHT_REEL_CONCURRENCY: {
    example: '2',
    says: 'how many files a worker reads, and how many reels it renders, at once',
    wants: 'a number from 1 to 64',
  },
  BRIGHT_REEL_WORKER: {
    example: 'read,render:2',
    says: 'what a worker is for: read, render, words, rest, each with how many at once; everything when nothing is said',
    wants: 'of read, render, words and rest, with commas between and numbers from 1 to 64 behind a colon',
  },
  BRIGHT_REEL_STALE_SECONDS: {
    example: '60',
    says: 'a task whose worker was not heard of for so long is taken up by another',
    wants: 'a number of seconds, 1 or more',
  },
  BRIGHT_REEL_STALL_SECONDS: {
    example: '600',
    says: 'an ffmpeg that gives no sign of life for so long is ended',
    wants: 'a number of seconds, 1 or more',
  },
  BRIGHT_REEL_PROGRAM_BYTES: {
    example: '4000000000',
    says: 'the most memory that one ffmpeg or recogniser of words may take, in bytes',
    wants: 'a number of bytes, 256000000 or more',
  },
  BRIGHT_REEL_RESERVE_BYTES: {
    example: '2000000000',
    says: 'what is kept free on the disk for the database and the logs, in bytes',
    wants: 'a number of bytes',
  },
  BRIGHT_REEL_ALLOWED_HOSTS: {
    example: '10.0.0.5:8080',
    says: 'private hosts that footage may be brought in from by link, with commas between',
    wants: 'hosts with commas between',
  },
  BRIGHT_REEL_LINK_BYTES: {
    example: '5000000000',
    says: 'the most that is brought in by one link, in bytes',
    wants: 'a number of bytes',
  },
  BRIGHT_REEL_OUTLET_URL: {
    example: 'http://…',
    says: 'a simulated outlet that runs elsewhere, instead of the one that is started with it',
    wants: 'an http address',
  },
  BRIGHT_REEL_WHISPER: {
    example: '/usr/bin/…',
    says: 'another recogniser of words: a program in the manner of whisper.cpp',
    wants: 'a program',
  },
  BRIGHT_REEL_WHISPER_MODEL: { example: '/model.bin', says: 'its model', wants: 'a file' },
  BRIGHT_REEL_WHISPER_LANGUAGES: {
    example: 'de,en',
    says: 'the languages it or the service hears, with commas between',
    wants: 'languages such as de,en',
  },
  BRIGHT_REEL_TRANSCRIPTION_URL: {
    example: 'http://127.0.0.1:8000/v1/audio/transcriptions',
    says: 'a service that hears words, off unless set: sound is sent there',
    wants: 'an address that begins with http:// or https://',
  },
  BRIGHT_REEL_TRANSCRIPTION_KEY: { example: '…', says: 'what it asks for as a bearer token', wants: 'a key' },
  BRIGHT_REEL_TRANSCRIPTION_MODEL: { example: 'whisper-1', says: 'the model it is asked for', wants: 'a name' },
  LOG_LEVEL: { example: 'debug', says: 'how much the logs say', wants: `one of ${levels.join(', ')}` },
};

/** A variable is not what it has to be. */
export class SettingsError extends Error {}

const names = Object.keys(sentences) as Name[];
let known: { key: string; settings: Settings } | null = null;

/**
 * The settings of this process. What is empty counts as not set.
 * @throws SettingsError with a sentence for every variable that does not fit
 */
export function settings(env: Record<string, string | undefined> = process.env): Settings {
  const given = Object.fromEntries(names.flatMap((name) => (env[name] ? [[name, env[name]]] : [])));
  const key = JSON.stringify(given);
  if (known?.key === key) return known.settings;
  const read = plainToInstance(Settings, given, { exposeDefaultValues: true });
  const wrong = validateSync(read).map(({ property }) => property as Name);
  if (wrong.length > 0)
    throw new SettingsError(
      wrong.map((name) => `${name} is “${env[name]}”; it has to be ${sentences[name].wants}.`).join('\n'),
    );
  known = { key, settings: read };
  return read;
}
