import { describe, expect, it } from 'vitest';
import { conflict, done, missing, refused } from '#usecases/result';
import { attachment, failed, modelOf, plainAnswer, succeeded } from './answer.server';

/** What the framework makes of an answer. */
const statusOf = (answer: unknown) => (answer as { init: { status: number } }).init.status;

describe('results of use cases as answers', () => {
  it('have the status of HTTP that says why (RFC 9110)', () => {
    expect(statusOf(failed(refused('No.')))).toBe(422);
    expect(statusOf(failed(conflict('Late.', null)))).toBe(409);
    expect(statusOf(failed(missing('Gone.')))).toBe(404);
    expect(plainAnswer(missing('Gone.')).status).toBe(404);
  });
  it('say it in a sentence and by field, beside what a screen expects', () => {
    expect((failed(refused('Too long.', 'name'), { made: 0 }) as unknown as { data: unknown }).data).toEqual({
      problem: 'Too long.',
      problems: { name: 'Too long.' },
      made: 0,
    });
    expect(succeeded({ made: 2 })).toEqual({ problem: null, problems: {}, made: 2 });
  });
  it('of a screen are its model, or thrown for the page that says why', () => {
    expect(modelOf(done({ boats: 3 }))).toEqual({ boats: 3 });
    expect(() => modelOf(missing('This reel was deleted.'))).toThrow();
  });
  it('files keep their names in whatever letters (RFC 8187)', () => {
    expect(attachment('Teichfest “Süd”.otio')).toBe(
      "attachment; filename*=UTF-8''Teichfest%20%E2%80%9CS%C3%BCd%E2%80%9D.otio",
    );
  });
});
