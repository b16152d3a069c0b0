import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { helpTable, helpText } from './help';
import { settings, SettingsError } from './index';

describe('the settings of an installation', () => {
  it('have defaults, and take what is set; what is empty counts as not set', () => {
    expect(settings({})).toMatchObject({ PORT: 4310, HOST: '127.0.0.1', BRIGHT_REEL_WHISPER_LANGUAGES: ['en'] });
    expect(settings({ PORT: '8080', BRIGHT_REEL_ALLOWED_HOSTS: 'a:1, b', HOST: '' })).toMatchObject({
      PORT: 8080,
      HOST: '127.0.0.1',
      BRIGHT_REEL_ALLOWED_HOSTS: ['a:1', 'b'],
    });
    expect(settings({}).BRIGHT_REEL_PASSWORD).toBeUndefined();
  });
  it('that do not fit are named, each with what it has to be', () => {
    const wrong = { PORT: 'http', BRIGHT_REEL_CONCURRENCY: '0', LOG_LEVEL: 'loud', DATABASE_URL: 'mysql://x' };
    expect(() => settings(wrong)).toThrow(SettingsError);
    try {
      settings(wrong);
    } catch (error) {
      expect((error as Error).message.split('\n').sort()).toEqual([
        'BRIGHT_REEL_CONCURRENCY is “0”; it has to be a number from 1 to 64.',
        'DATABASE_URL is “mysql://x”; it has to be an address that begins with postgresql://.',
        'LOG_LEVEL is “loud”; it has to be one of trace, debug, info, warn, error, fatal, silent.',
        'PORT is “http”; it has to be a number from 1 to 65535.',
      ]);
    }
  });
  it('are all explained, in the handbook and in ./start --help, as they are', () => {
    expect(readFileSync('docs/handbook/settings.md', 'utf8')).toContain(helpTable());
    expect(readFileSync('start', 'utf8')).toContain(helpText());
  });
});
