import { IsArray, IsInt, IsOptional, IsString, Length, Min, ValidateNested } from 'class-validator';
import { Type } from 'class-transformer';
import { describe, expect, it } from 'vitest';
import { check, plain, whatIsWild } from './validate';

class Crew {
  @IsString() @Length(1, 10, { message: 'Give the crew a name.' }) name!: string;
}
class Boat {
  @IsInt({ message: 'Seats are counted in whole numbers.' }) @Min(1, { message: 'A boat has a seat.' }) seats!: number;
  @IsOptional() @ValidateNested() @Type(() => Crew) crew?: Crew;
}
class Fleet {
  @IsArray() @ValidateNested({ each: true }) @Type(() => Boat) boats!: Boat[];
}

describe('what enters', () => {
  it('comes out as its class, without what the class does not know', () => {
    const checked = check(Boat, { seats: 2, crew: { name: 'Otters', evil: 1 }, __proto__: { seats: 9 }, more: true });
    expect(checked).toMatchObject({ ok: true, value: { seats: 2, crew: { name: 'Otters' } } });
    expect(checked.ok && [checked.value instanceof Boat, Object.keys(checked.value), plain(checked.value)]).toEqual([
      true,
      ['seats', 'crew'],
      { seats: 2, crew: { name: 'Otters' } },
    ]);
  });
  it('is refused field by field, with the first sentence above all', () => {
    expect(check(Boat, { seats: 0, crew: { name: '' } })).toEqual({
      ok: false,
      why: 'refused',
      sentence: 'A boat has a seat.',
      problems: { seats: 'A boat has a seat.', 'crew.name': 'Give the crew a name.' },
    });
    // Of what is no number a bound has nothing to say.
    expect(check(Boat, { seats: 'two' })).toMatchObject({ problems: { seats: 'Seats are counted in whole numbers.' } });
  });
  it.each([[null], [undefined], ['text'], [[]], [7]])('that is %j is refused, not thrown', (given) =>
    expect(check(Boat, given)).toMatchObject({ ok: false, why: 'refused' }),
  );
  it.each([
    [
      'nested beyond all measure',
      { name: JSON.parse('['.repeat(1000) + ']'.repeat(1000)) as unknown },
      /nested too deeply/,
    ],
    [
      'named as what every object has',
      JSON.parse('{"crew": {"constructor": {}}}') as object,
      /“constructor” is no field/,
    ],
    ['with NUL in a text, which PostgreSQL refuses', { crew: { name: 'a\0b' } }, /characters that no text can hold/],
    ['with half a letter', { crew: { name: '\ud83d' } }, /characters that no text can hold/],
  ])('that is %s is refused, not thrown', (_, given, sentence) => {
    const checked = check(Boat, given);
    expect(checked.ok ? '' : checked.sentence).toMatch(sentence);
  });
  it('of more fields than anything has is refused at once, by form or by record; a long list is none', () => {
    const names = Array.from({ length: 100_000 }, (_, index) => `a${index}`);
    const form = new FormData();
    for (const name of names) form.append(name, 'x');
    const record = Object.fromEntries(names.map((name) => [name, 'x']));
    for (const given of [form, record, { crew: { name: [record] } }])
      expect(check(Boat, given)).toMatchObject({ ok: false, sentence: 'What was sent has too many fields.' });
    // What is kept by pieces of a large project.
    const kept = Object.fromEntries(names.slice(0, 5000).map((name) => [name, 'x']));
    expect(check(Boat, { seats: 1, crew: { name: 'Otters' }, kept })).toMatchObject({ ok: true });
    expect(whatIsWild(names)).toBeNull();
  });
  it('letters of two halves are letters', () =>
    expect(check(Boat, { seats: 1, crew: { name: '🦆' } })).toMatchObject({ ok: true }));
  it('has no list where an object belongs, however deep', () => {
    expect(check(Fleet, { boats: [] })).toMatchObject({ ok: true });
    expect(check(Fleet, { boats: [{ seats: 1, crew: { name: 'Otters' } }] })).toMatchObject({ ok: true });
    for (const [given, place] of [
      [{ boats: [[]] }, 'boats.0'],
      [{ boats: [{ seats: 1 }, [{ seats: 1 }]] }, 'boats.1'],
      [{ boats: [{ seats: 1, crew: [] }] }, 'boats.0.crew'],
      [{ boats: [{ seats: 1, crew: [{ name: 'Otters' }] }] }, 'boats.0.crew'],
    ] as const)
      expect(check(Fleet, given), JSON.stringify(given)).toMatchObject({
        ok: false,
        problems: { [place]: `${place} is a list where none belongs` },
      });
  });
  it('a field that stands several times in a form is a list', () => {
    class Tags {
      @IsString({ each: true }) tag!: string[];
    }
    const form = new FormData();
    form.append('tag', 'sun');
    form.append('tag', 'wave');
    expect(check(Tags, form)).toMatchObject({ ok: true, value: { tag: ['sun', 'wave'] } });
  });
});
